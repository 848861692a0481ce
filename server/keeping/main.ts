import { setting } from '../../platform/node/setting';
import { backUp, restore } from './backup';

/* npm run backup -- FOLDER, npm run restore -- FOLDER; DATA_DIR says where the server's data are. */
const [, , command, folder] = process.argv;
const work = command === 'backup' ? backUp : command === 'restore' ? restore : null;
if (work === null || folder === undefined) {
  console.error('Say which folder: npm run backup -- FOLDER, or npm run restore -- FOLDER.');
  process.exit(2);
}
const data = setting('DATA_DIR') ?? 'data';
try {
  for (const file of await (command === 'backup' ? work(data, folder) : work(folder, data))) console.log(file);
} catch (error) {
  console.error((error as Error).message);
  process.exit(1);
}

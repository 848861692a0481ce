import { readConfig } from '../config/config';
import { backUp, restore } from './backup';

/* npm run backup -- FOLDER, npm run restore -- FOLDER; DATA_DIR says where the server's data are. */
const [, , command, folder] = process.argv;
if ((command !== 'backup' && command !== 'restore') || folder === undefined) {
  console.error('Say which folder: npm run backup -- FOLDER, or npm run restore -- FOLDER.');
  process.exit(2);
}
try {
  const { DATA_DIR, BLOB_BUCKET } = readConfig(process.env);
  const options = { inBucket: BLOB_BUCKET !== '' };
  for (const file of command === 'backup' ? backUp(DATA_DIR, folder, options) : restore(folder, DATA_DIR, options))
    console.log(file);
} catch (error) {
  console.error((error as Error).message);
  process.exit(1);
}

import 'reflect-metadata';
import { existsSync } from 'node:fs';
import { openBlobs } from '../blobs/openBlobs';
import { readConfig } from '../config/config';
import { openData } from '../openData';
import { deletePerson, exportPerson, findPeople } from './people';

/* npm run person -- find TEXT | export ID FILE.zip | delete ID; for requests of people about their data. The server may run. */

const HELP = `npm run person -- find NAME          by name, number, or the id of a hand-in (it stands in its address)
npm run person -- export ID FILE.zip  all that is kept of them
npm run person -- delete ID           everything of theirs, for good`;

function fail(why: string): never {
  console.error(why);
  process.exit(2);
}

try {
  const [, , command, what = '', file = ''] = process.argv;
  if (what === '' || (command === 'export' && file === '')) fail(HELP);
  const config = readConfig(process.env);
  const data = openData(config.DATA_DIR);
  if (command === 'find') {
    for (const { id, name, number, handIns, screens, seenAtMs } of findPeople(data.db, what))
      console.log(
        [
          id,
          name,
          number,
          `${handIns} hand-ins`,
          `${screens} screens`,
          seenAtMs === null ? 'never here' : `last here ${new Date(seenAtMs).toISOString().slice(0, 10)}`,
        ].join('\t'),
      );
  } else if (command === 'export') {
    if (existsSync(file)) fail(`${file} is there already. Name another.`);
    await exportPerson(data.db, openBlobs(data, config), what, file);
    console.log(`Everything of ${what} is in ${file}.`);
  } else if (command === 'delete') {
    deletePerson(data.db, what, Date.now());
    console.log(
      `Everything of ${what} is deleted; their photos’ bytes go within two days. Backups made before still have it.`,
    );
  } else fail(HELP);
  for (const each of [data.db, data.bytesFile]) each.close();
} catch (error) {
  fail((error as Error).message);
}

// npm run docs: writes into the documents what is made from the code.
import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { setup } from './setup.mjs';

await setup({ web: false });
const { ROOT } = await import('./ensureBuilt.mjs');
const { settingsTable } = await import('../dist/settingsTable.mjs');
const file = path.join(ROOT, 'docs/operating.md');
const before = readFileSync(file, 'utf8');
writeFileSync(
  file,
  before.replace(
    /<!-- settings -->[^]*<!-- \/settings -->/,
    () => `<!-- settings -->\n${settingsTable()}\n<!-- /settings -->`,
  ),
);

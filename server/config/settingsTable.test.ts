import { readFileSync } from 'node:fs';
import path from 'node:path';
import { settingsTable } from './settingsTable';

it('docs/operating.md has every setting as it is (npm run docs writes it)', () => {
  expect(readFileSync(path.join(__dirname, '../../docs/operating.md'), 'utf8')).toContain(settingsTable());
});

import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';

/** Every sheet of a PDF as a reader that is not ours draws it: PNG files in order. */
export function sheetsOf(pdf: string, dpi = 100): string[] {
  const folder = mkdtempSync(path.join(tmpdir(), 'fotoplan-sheets-'));
  execFileSync('pdftoppm', ['-r', String(dpi), '-png', pdf, path.join(folder, 'sheet')]);
  return readdirSync(folder)
    .sort()
    .map((name) => path.join(folder, name));
}

import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { startFileChecks } from './fileCheckPool';

const folder = mkdtempSync(path.join(tmpdir(), 'fotoplan-checks-'));
const script = path.join(folder, 'worker.mjs');
// what stands for the next bug of a parser: its first byte says how it fails
writeFileSync(
  script,
  `export default ({ bytes, begun }) => {
  Atomics.store(begun, 0, 1);
  if (bytes[0] === 1) for (;;);
  if (bytes[0] === 2) { const kept = []; for (;;) kept.push(new Array(1e5).fill({})); }
  if (bytes[0] === 4) for (const end = Date.now() + 600; Date.now() < end; );
  if (bytes[0] === 3) return { ok: false, error: { code: 'PHOTO_CUT_SHORT', message: 'cut short', facts: { bytes: 1 } } };
  return { ok: true, value: bytes.length };
}`,
);
const checks = startFileChecks(script, 1500);
afterAll(async () => {
  await checks.close();
  rmSync(folder, { recursive: true });
});
const of = (...bytes: readonly number[]): Promise<unknown> =>
  checks.photo(new Uint8Array(bytes), 'a.jpg').catch((error: unknown) => (error as { code?: unknown }).code);

it('a file over which a thread hangs or fills its memory is refused, and all others go on', async () => {
  expect(await of(0, 0, 0)).toBe(3);
  expect(await Promise.all([of(1), of(0, 0), of(2), of(1), of(0)])).toEqual([
    'PHOTO_NOT_A_PHOTO',
    2,
    'PHOTO_NOT_A_PHOTO',
    'PHOTO_NOT_A_PHOTO',
    1,
  ]);
  // what waits for a thread behind others has not begun, and is not refused for that
  expect(await Promise.all([of(4), of(4), of(4), of(4), of(4), of(4), of(0)])).toEqual([1, 1, 1, 1, 1, 1, 1]);
  await expect(checks.pdfPages(new Uint8Array([1]))).rejects.toMatchObject({ code: 'PDF_UNREADABLE' });
});

it('a thread that fails before it has a question stops nothing, and is replaced once it can start', async () => {
  const late = path.join(folder, 'late.mjs');
  const failing = startFileChecks(late, 1500);
  await new Promise((later) => setTimeout(later, 500));
  await expect(failing.photo(new Uint8Array([0]), 'a.jpg')).rejects.toMatchObject({ code: 'PHOTO_NOT_A_PHOTO' });
  writeFileSync(late, 'export default () => ({ ok: true, value: 7 })');
  expect(await failing.photo(new Uint8Array([0]), 'a.jpg')).toBe(7);
  await failing.close();
});

it('what is wrong with a file is told as it is', async () => {
  expect(await of(3)).toBe('PHOTO_CUT_SHORT');
});

import fc from 'fast-check';
import { fileNameFor } from './fileNameFor';

describe('fileNameFor', () => {
  it.each([
    ['Set 4: heights at a secondary port', 'Set 4 heights at a secondary port.pdf'],
    ['../../etc/passwd', 'etc passwd.pdf'],
    ['  ...  ', 'Pages.pdf'],
    ['Cafe\u0301 plate', 'Caf\u00e9 plate.pdf'],
  ])('turns %j into %j', (title, name) => expect(fileNameFor(title)).toBe(name));

  it('is safe on every file system, for any title', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 300 }), (title) => {
        const name = fileNameFor(title);

        expect(name).not.toMatch(/[\u0000-\u001f<>:"/\\|?*]/);
        expect(name.length).toBeGreaterThan(4);
        expect(Array.from(name).length).toBeLessThanOrEqual(104);
      }),
    );
  });
});

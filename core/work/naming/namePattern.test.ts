import fc from 'fast-check';
import { NAME_PIECES, nameByPattern, SEPARATORS, type NamePattern } from './namePattern';

const facts = {
  family: 'Tolvanen-Adeyemi',
  first: 'Mira',
  number: 'SP-20417',
  course: 'Tides and Tidal Streams',
  assignment: 'Set 4',
  title: 'Set 4: heights',
  attempt: 2,
  day: { year: 2026, month: 3, day: 7 },
};

describe('names by a convention', () => {
  it('puts pieces together in their order', () => {
    const pattern: NamePattern = {
      pieces: [
        { kind: 'family' },
        { kind: 'initial' },
        { kind: 'number' },
        { kind: 'assignment' },
        { kind: 'date', form: '20261124' },
        { kind: 'attempt' },
      ],
      separator: '_',
    };
    expect(nameByPattern(pattern, facts)).toBe('Tolvanen-Adeyemi_M_SP-20417_Set-4_20260307_v2.pdf');
    expect(
      nameByPattern(
        {
          pieces: [
            { kind: 'words', text: 'Tides' },
            { kind: 'date', form: '24-11-2026' },
          ],
          separator: ' ',
        },
        facts,
      ),
    ).toBe('Tides 07-03-2026.pdf');
    expect(nameByPattern({ pieces: [{ kind: 'title' }], separator: '_' }, facts)).toBe('Set-4-heights.pdf');
  });

  it('leaves out what is not known, and falls back on the title', () => {
    expect(
      nameByPattern(
        { pieces: [{ kind: 'family' }, { kind: 'course' }], separator: '-' },
        { title: 'Set 4', day: facts.day },
      ),
    ).toBe('Set 4.pdf');
  });

  it('is a safe name whatever is in it', () => {
    const piece = fc.record({
      kind: fc.constantFrom(...NAME_PIECES),
      text: fc.string({ unit: 'grapheme', maxLength: 60 }),
    });
    fc.assert(
      fc.property(
        fc.array(piece, { maxLength: 8 }),
        fc.constantFrom(...SEPARATORS),
        fc.string({ unit: 'grapheme', maxLength: 80 }),
        (pieces, separator, family) => {
          const name = nameByPattern({ pieces, separator }, { ...facts, family });

          return (
            /^[^<>:"/\\|?*\u0000-\u001f]+\.pdf$/.test(name) &&
            !name.startsWith('.') &&
            name === name.normalize('NFC') &&
            Array.from(name).length <= 104
          );
        },
      ),
    );
  });
});

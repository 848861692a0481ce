import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { checkSeeds, manifest } from '../trainingManifest';

const root = path.join(__dirname, '../..');

describe('the training manifest', () => {
  it.each(manifest.trained.filter(({ sha256 }) => sha256 !== null))(
    'knows the weights that ship: $weights',
    (entry) => {
      const bytes = readFileSync(path.join(root, entry.weights));
      expect(createHash('sha256').update(bytes).digest('hex')).toBe(entry.sha256);
    },
  );

  it('keeps every set whose end is known apart from what is scored', () => {
    for (const { seeds } of manifest.trained)
      for (const { from, to } of seeds)
        for (const { firstSeed, lastSeed } of manifest.scored)
          expect({ from, to, apart: to === null || to < firstSeed || from > lastSeed }).toMatchObject({ apart: true });
  });

  it('lets nothing be trained on a photo that is scored', () => {
    expect(() => checkSeeds(['30000.truth.json', '30001.jpg'])).not.toThrow();
    expect(() => checkSeeds(['30000.jpg', '5071.truth.json'])).toThrow('5071');
    expect(() => checkSeeds(['62000.jpg'])).toThrow('62000');
  });
});

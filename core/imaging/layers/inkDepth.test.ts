import fc from 'fast-check';
import { createRandom } from '../../../demo/random';
import { createPixelImage, type PixelImage } from '../raster/pixelImage';
import { countDarker, inkWhere, strokeDepth, inkDepthOf } from './inkDepth';

/** Mostly white, as finished pages are. */
function drawn(seed: number, channels: 1 | 3 | 4, width: number, height: number): PixelImage {
  const random = createRandom(seed);
  const page = createPixelImage(width, height, channels);
  page.data.fill(255);
  for (let i = 0; i < width * height; i++)
    if (random.next() < 0.2) for (let c = 0; c < channels; c++) page.data[i * channels + c] = 256 * random.next();
  return page;
}

describe('a page’s tones', () => {
  it.each([1, 3, 4] as const)('are depth by the channel that says most, and lightness, %i channels', (channels) =>
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 9999 }),
        fc.integer({ min: 1, max: 70 }),
        fc.integer({ min: 1, max: 40 }),
        (seed, width, height) => {
          const page = drawn(seed, channels, width, height);
          const { depth, grey } = inkDepthOf(page);
          for (let i = 0; i < width * height; i++) {
            const [r, g, b] =
              channels === 1 ? [0, 0, 0].map(() => page.data[i]!) : [0, 1, 2].map((c) => page.data[i * channels + c]!);
            expect(depth[i]).toBe(255 - Math.min(r!, g!, b!));
            expect(Math.abs(grey[i]! - (0.299 * r! + 0.587 * g! + 0.114 * b!))).toBeLessThanOrEqual(1);
          }
        },
      ),
      { numRuns: 25 },
    ),
  );

  it('are the same in pages larger than what is looked at in one go', () => {
    const page = drawn(4, 3, 331, 467);
    const { depth, grey } = inkDepthOf(page);
    const last = depth.length - 1;
    expect(depth[last]).toBe(255 - Math.min(...page.data.subarray(3 * last)));
    expect(countDarker(grey, 200)).toBe(grey.filter((level) => level < 200).length);
  });

  it('say where there is ink: deep enough, beside the stroke it belongs to', () =>
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 9999 }), fc.constantFrom(0.25, 0.5, 0.75), (seed, share) => {
        const { depth } = inkDepthOf(drawn(seed, 1, 61, 37));
        const full = strokeDepth(depth, 61, 37);
        const { is, count } = inkWhere(depth, full, 30, share);
        const expected = Array.from(depth, (own, i) => (own >= 30 && own >= share * full[i]! ? 1 : 0));
        expect([...is]).toEqual(expected);
        expect(count).toBe(expected.filter((own) => own === 1).length);
      }),
      { numRuns: 30 },
    ));
});

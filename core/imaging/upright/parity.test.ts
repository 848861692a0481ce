import { readFileSync } from 'node:fs';
import path from 'node:path';
import { toColourPicture } from '../detect/colourPicture';
import { segmentPage } from '../detect/pageNetwork';
import { withWorkspace } from '../kernels/workspace';
import { createPixelImage, type PixelImage } from '../raster/pixelImage';
import { CROP_PX, voteOnCrop } from './readUpright';

/*
 * The networks as the app runs them against what torch makes of the same weights and the same picture (bench/train/parity.py).
 */

const torch = JSON.parse(readFileSync(path.join(__dirname, '../network/parity.json'), 'utf8')) as {
  readonly every: number;
  readonly page: readonly number[];
  readonly edge: readonly number[];
  readonly upright: readonly number[];
};

/** Waves and edges in whole levels: parity.py makes the same. */
function pattern(width: number, height: number, channels: 1 | 3): PixelImage {
  const image = createPixelImage(width, height, channels);
  for (let y = 0, at = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      for (let c = 0; c < channels; c++, at++) {
        const tile = 90 * ((Math.floor(x / 40) + Math.floor(y / 56)) % 2);
        image.data[at] = (x * 7 + y * 13 + c * 50 + Math.floor((x * y) / 16) + tile) % 256;
      }
  return image;
}

const furthest = (found: readonly number[], expected: readonly number[]): number =>
  Math.max(...expected.map((value, i) => Math.abs(value - found[i]!)));

it('finds the page as torch does', () => {
  const map = withWorkspace((ws) => segmentPage(toColourPicture(pattern(192, 256, 3), ws)));
  const sampled = (values: Float32Array): number[] => Array.from(values).filter((_, i) => i % torch.every === 0);
  expect(sampled(map.page)).toHaveLength(torch.page.length);
  expect(furthest(sampled(map.page), torch.page)).toBeLessThan(1e-3);
  expect(furthest(sampled(map.edge), torch.edge)).toBeLessThan(1e-3);
  // a network that says the same everywhere would agree with itself
  expect(Math.max(...torch.edge) - Math.min(...torch.edge)).toBeGreaterThan(0.01);
});

it('votes on writing as torch does', () => {
  const crop = Float32Array.from(pattern(CROP_PX, CROP_PX, 1).data, (level) => level / 255);
  expect(furthest([...voteOnCrop(crop)], torch.upright)).toBeLessThan(1e-3);
});

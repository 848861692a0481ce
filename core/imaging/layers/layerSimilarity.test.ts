import { createRandom } from '../../../demo/random';
import { similarityOf } from './layerSimilarity';

describe('similarityOf', () => {
  const [width, height] = [61, 47];
  const random = createRandom(5);
  const before = Uint8ClampedArray.from({ length: width * height }, () => (random.next() < 0.2 ? 90 : 255));
  const after = before.map((level) => level - 40 + 80 * random.next());

  /** Structural similarity of the 9 × 9 pixels about one, by its definition (Wang et al. 2004). */
  function likeness(x: number, y: number): number {
    const pairs: [number, number][] = [];
    for (let v = y - 4; v <= y + 4; v++)
      for (let u = x - 4; u <= x + 4; u++) pairs.push([before[v * width + u]!, after[v * width + u]!]);
    const mean = (of: (pair: [number, number]) => number): number =>
      pairs.reduce((sum, pair) => sum + of(pair), 0) / pairs.length;
    const [ma, mb] = [mean(([a]) => a), mean(([, b]) => b)];
    const covariance = mean(([a, b]) => (a - ma) * (b - mb));
    const variances = mean(([a]) => (a - ma) ** 2) + mean(([, b]) => (b - mb) ** 2);
    const [c1, c2] = [(0.01 * 255) ** 2, (0.03 * 255) ** 2];
    return ((2 * ma * mb + c1) * (2 * covariance + c2)) / ((ma ** 2 + mb ** 2 + c1) * (variances + c2));
  }

  it('is the mean of windows about ink, and of windows everywhere', () => {
    const about: number[] = [];
    const everywhere: number[] = [];
    for (let y = 4; y < height - 4; y++)
      for (let x = 4; x < width - 4; x++) {
        if (before[y * width + x]! < 200) about.push(likeness(x, y));
        if ((y - 4) % 11 === 0 && (x - 4) % 11 === 0) everywhere.push(likeness(x, y));
      }
    const mean = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0) / values.length;
    const { ink, all } = similarityOf(before, after, width, height);
    expect(ink).toBeCloseTo(mean(about), 9);
    expect(all).toBeCloseTo(mean(everywhere), 9);
    expect(ink).toBeLessThan(0.99);
  });

  it('is 1 for what is the same, and where there is nothing to compare', () => {
    expect(similarityOf(before, before, width, height)).toEqual({ ink: 1, all: 1 });
    const white = new Uint8ClampedArray(width * height).fill(255);
    expect(similarityOf(white, after, width, height).ink).toBe(1);
    expect(similarityOf(before.slice(0, 64), after.slice(0, 64), 8, 8)).toEqual({ ink: 1, all: 1 });
  });
});

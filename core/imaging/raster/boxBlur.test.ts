import fc from 'fast-check';
import { boxBlur } from './boxBlur';

describe('boxBlur', () => {
  it('is the mean of the square around each place, with the border repeated', () =>
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 9 }),
        fc.integer({ min: 1, max: 7 }),
        fc.integer({ min: 1, max: 4 }),
        fc.infiniteStream(fc.integer({ min: 0, max: 255 })),
        (width, height, radius, noise) => {
          const plane = Float32Array.from({ length: width * height }, () => noise.next().value as number);
          const blurred = boxBlur(plane, width, height, { radius });
          const at = (x: number, y: number): number =>
            plane[Math.min(height - 1, Math.max(0, y)) * width + Math.min(width - 1, Math.max(0, x))]!;
          for (let y = 0; y < height; y++) {
            for (let x = 0; x < width; x++) {
              let sum = 0;
              for (let dy = -radius; dy <= radius; dy++)
                for (let dx = -radius; dx <= radius; dx++) sum += at(x + dx, y + dy);
              expect(blurred[y * width + x]).toBeCloseTo(sum / (2 * radius + 1) ** 2, 2);
            }
          }
        },
      ),
      { numRuns: 40 },
    ));

  it('leaves its input and what is even alone, however often', () => {
    const even = new Float32Array(60).fill(7);
    expect(Array.from(boxBlur(even, 10, 6, { radius: 2, passes: 3 })).every((v) => Math.abs(v - 7) < 1e-4)).toBe(true);
    const step = Float32Array.from({ length: 60 }, (_, i) => (i % 10 < 5 ? 0 : 100));
    const before = step.slice();
    boxBlur(step, 10, 6, { radius: 1, passes: 2 });
    expect(step).toEqual(before);
  });
});

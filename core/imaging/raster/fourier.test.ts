import { createRandom } from '../../../demo/random';
import { transformSquare } from './fourier';

const SIDE = 16;

describe('transformSquare', () => {
  const random = createRandom(3);
  const noise = (): Float32Array => Float32Array.from({ length: SIDE * SIDE }, () => random.gauss());

  it('is the transform by the book, transposed', () => {
    const [real, imaginary] = [noise(), noise()];
    const [toReal, toImaginary] = [real.slice(), imaginary.slice()];
    transformSquare(toReal, toImaginary, SIDE);
    for (const [u, v] of [
      [0, 0],
      [1, 0],
      [3, 7],
      [15, 2],
      [8, 8],
    ] as const) {
      let [re, im] = [0, 0];
      for (let y = 0; y < SIDE; y++) {
        for (let x = 0; x < SIDE; x++) {
          const angle = (-2 * Math.PI * (u * x + v * y)) / SIDE;
          const at = y * SIDE + x;
          re += real[at]! * Math.cos(angle) - imaginary[at]! * Math.sin(angle);
          im += real[at]! * Math.sin(angle) + imaginary[at]! * Math.cos(angle);
        }
      }
      expect(toReal[u * SIDE + v]).toBeCloseTo(re, 3);
      expect(toImaginary[u * SIDE + v]).toBeCloseTo(im, 3);
    }
  });

  it('keeps the energy (Parseval)', () => {
    const energy = (...parts: Float32Array[]): number =>
      parts.reduce((sum, part) => sum + part.reduce((s, v) => s + v * v, 0), 0);
    const [real, imaginary] = [noise(), noise()];
    const before = energy(real, imaginary);
    transformSquare(real, imaginary, SIDE);
    expect(energy(real, imaginary) / SIDE ** 2 / before).toBeCloseTo(1, 4);
  });

  it('takes squares whose side is a power of two only', () => {
    expect(() => transformSquare(new Float32Array(144), new Float32Array(144), 12)).toThrow(RangeError);
  });
});

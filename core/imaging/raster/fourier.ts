/*
 * The discrete Fourier transform of a square of pixels (Cooley & Tukey 1965, radix 2).
 */

/** What a transform of one size needs to know: in which order its samples are taken, and the twiddle factors. */
interface Plan {
  readonly order: Int32Array;
  readonly cosines: Float64Array;
  readonly sines: Float64Array;
}

const plans = new Map<number, Plan>();

function planOf(side: number): Plan {
  const known = plans.get(side);
  if (known !== undefined) return known;
  const bits = Math.log2(side);
  if (!Number.isInteger(bits)) throw new RangeError(`a side of ${side} is no power of two`);
  const reversed = (i: number): number =>
    Array.from({ length: bits }, (_, b) => ((i >> b) & 1) << (bits - 1 - b)).reduce((p, q) => p | q, 0);
  const angle = (k: number): number => (-2 * Math.PI * k) / side;
  const plan = {
    order: Int32Array.from({ length: side }, (_, i) => reversed(i)),
    cosines: Float64Array.from({ length: side / 2 }, (_, k) => Math.cos(angle(k))),
    sines: Float64Array.from({ length: side / 2 }, (_, k) => Math.sin(angle(k))),
  };
  plans.set(side, plan);
  return plan;
}

/**
 * Transforms a square in place; it comes out transposed, which spares one pass: frequencies [u, v], u along rows.
 * @param real - side × side samples [y, x]
 * @param imaginary - as many; another picture's samples may ride along here
 * @param side - a power of two
 * @throws RangeError where it is none
 */
export function transformSquare(real: Float32Array, imaginary: Float32Array, side: number): void {
  const plan = planOf(side);
  for (let k = 0; k < side; k++) transformRow(real, imaginary, k * side, side, plan);
  for (const part of [real, imaginary]) transpose(part, side);
  for (let k = 0; k < side; k++) transformRow(real, imaginary, k * side, side, plan);
}

function transpose(square: Float32Array, side: number): void {
  for (let j = 0; j < side; j++) {
    for (let i = 0; i < j; i++) {
      const kept = square[j * side + i]!;
      square[j * side + i] = square[i * side + j]!;
      square[i * side + j] = kept;
    }
  }
}

function transformRow(
  real: Float32Array,
  imaginary: Float32Array,
  from: number,
  side: number,
  { order, cosines, sines }: Plan,
): void {
  for (let i = 0; i < side; i++) {
    const j = order[i]!;
    if (j <= i) continue;
    const [re, im] = [real[from + i]!, imaginary[from + i]!];
    real[from + i] = real[from + j]!;
    imaginary[from + i] = imaginary[from + j]!;
    real[from + j] = re;
    imaginary[from + j] = im;
  }
  for (let half = 1, turn = side / 2; half < side; half *= 2, turn /= 2) {
    for (let k = 0; k < half; k++) {
      const c = cosines[k * turn]!;
      const s = sines[k * turn]!;
      for (let p = from + k; p < from + side; p += 2 * half) {
        const q = p + half;
        const re = real[q]! * c - imaginary[q]! * s;
        const im = real[q]! * s + imaginary[q]! * c;
        real[q] = real[p]! - re;
        imaginary[q] = imaginary[p]! - im;
        real[p]! += re;
        imaginary[p]! += im;
      }
    }
  }
}

/**
 * The value between four neighbouring samples of a plane, bilinearly.
 * @param data - the plane, row by row
 * @param stride - samples to a row
 * @param at - index of the upper left of the four
 * @param fx - how far towards the right, 0 to 1; @param fy - how far down
 */
export const bilinear = (data: Float32Array, stride: number, at: number, fx: number, fy: number): number =>
  (data[at]! * (1 - fx) + data[at + 1]! * fx) * (1 - fy) +
  (data[at + stride]! * (1 - fx) + data[at + stride + 1]! * fx) * fy;

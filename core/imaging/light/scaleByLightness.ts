import { SHARES_KERNELS } from '../kernels/sharesKernels';
import { FIRST_BYTE, roomFor, scratchKernels } from '../kernels/startKernels';

interface ScaleKernels {
  scaleByLightness(plane: number, lightness: number, count: number, table: number): void;
}
const start = scratchKernels<ScaleKernels>(SHARES_KERNELS);

/**
 * Scales planes of the field by what a table says for the lightness there.
 * @param tables - for each plane, factors for lightness 0 to 256
 */
export function scaleByLightness(
  planes: readonly Float32Array[],
  lightness: Float32Array,
  tables: readonly Float32Array[],
): Float32Array[] {
  const lightnessAt = FIRST_BYTE + roomFor(257);
  const planeAt = lightnessAt + roomFor(lightness.length);
  const { kernels, buffer } = start(planeAt + roomFor(lightness.length));
  new Float32Array(buffer, lightnessAt, lightness.length).set(lightness);
  const inKernels = new Float32Array(buffer, planeAt, lightness.length);
  return planes.map((plane, k) => {
    new Float32Array(buffer, FIRST_BYTE, 257).set(tables[k]!);
    inKernels.set(plane);
    kernels.scaleByLightness(planeAt, lightnessAt, plane.length, FIRST_BYTE);
    return inKernels.slice();
  });
}

import { withWorkspace } from '../kernels/workspace';

/**
 * Scales planes of the field by what a table says for the lightness there.
 * @param tables - for each plane, factors for lightness 0 to 256
 */
export function scaleByLightness(
  planes: readonly Float32Array[],
  lightness: Float32Array,
  tables: readonly Float32Array[],
): Float32Array[] {
  return withWorkspace((ws) => {
    const table = ws.f32(257);
    const lit = ws.of(lightness);
    const samples = ws.f32(lightness.length);
    return planes.map((plane, k) => {
      table.set(tables[k]!);
      samples.set(plane);
      ws.kernels.scaleByLightness(samples.at, lit.at, plane.length, table.at);
      return samples.copy();
    });
  });
}

import type { IlluminationField } from '../light/illuminationField';
import { boxBlur } from '../raster/boxBlur';

/** Share of the page from which what lies on it counts as a picture, and not as a banner or a filled box. */
const LEAST_SHARE = 0.01;
/** Half the breadth over which a picture gives way to paper, px of the field: no seam is seen. */
const FEATHER_PX = 4;

/**
 * How much each place of the field belongs to a picture on the page, 0 to 1 with soft rims; null where there is none.
 */
export function pictureWeight({ nonPaper, width, height }: IlluminationField): Float32Array | null {
  let covered = 0;
  for (let i = 0; i < nonPaper.length; i++) covered += nonPaper[i]!;
  if (covered < LEAST_SHARE * nonPaper.length) return null;
  return boxBlur(Float32Array.from(nonPaper), width, height, { radius: FEATHER_PX, passes: 2 });
}

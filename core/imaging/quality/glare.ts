import type { Point } from '../geometry/point';
import { placeOnQuad, type Quad } from '../geometry/quad';
import type { PixelImage } from '../raster/pixelImage';
import { quantile } from '../raster/quantile';

/** Level from which a pixel is burnt out. */
const BURNT = 250;
/** Cells across a page, and down. */
const GRID = 12;
/** Pixels looked at across a cell, and down. */
const SAMPLES = 4;
/** A cell counts where most of it is burnt out. */
const CELL_SHARE = 0.55;
/** Where more of the page than this is burnt out, it is bright, and that is no reflection. */
const MOST_SHARE = 0.3;
/** Nor where half of it is brighter than this level. */
const BRIGHTEST_REST = 228;
/** Burnt-out cells that make a reflection. */
const LEAST_CELLS = 2;

/**
 * The middle of a reflection that burns the page out, in image pixels, or null.
 * Limits: a page that is burnt out as a whole is not glare; a reflection smaller than about a hundredth of the page is missed.
 * @param image - RGB, RGBA or grey; green stands for lightness
 */
export function findGlare({ width, height, channels, data }: PixelImage, page: Quad): Point | null {
  const green = channels === 1 ? 0 : 1;
  const burnt: Point[] = [];
  const levels: number[] = [];
  for (let j = 0; j < GRID; j++) {
    for (let i = 0; i < GRID; i++) {
      let hits = 0;
      for (let k = 0; k < SAMPLES * SAMPLES; k++) {
        const p = placeOnQuad(
          page,
          (i + ((k % SAMPLES) + 0.5) / SAMPLES) / GRID,
          (j + (Math.floor(k / SAMPLES) + 0.5) / SAMPLES) / GRID,
        );
        const x = Math.floor(p.x);
        const y = Math.floor(p.y);
        if (x < 0 || y < 0 || x >= width || y >= height) continue;
        const level = data[(y * width + x) * channels + green]!;
        levels.push(level);
        if (level >= BURNT) hits++;
      }
      if (hits >= CELL_SHARE * SAMPLES * SAMPLES) burnt.push(placeOnQuad(page, (i + 0.5) / GRID, (j + 0.5) / GRID));
    }
  }
  if (quantile(levels, 0.5, 0) > BRIGHTEST_REST) return null;
  if (burnt.length < LEAST_CELLS || burnt.length > MOST_SHARE * GRID * GRID) return null;
  return { x: burnt.reduce((s, p) => s + p.x, 0) / burnt.length, y: burnt.reduce((s, p) => s + p.y, 0) / burnt.length };
}

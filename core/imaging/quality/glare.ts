import type { Point } from '../geometry/point';
import { placeOnQuad, wholePicture, type Quad } from '../geometry/quad';
import type { PixelImage } from '../raster/pixelImage';
import { connectedRegions } from '../raster/connectedRegions';
import { quantile } from '../raster/quantile';

/** Levels at which islands are looked for, from burnt out to paper that is well lit, and how far apart: of 29 photos with a lamp's reflection 19 are found from 170 and from 222 on, 18 from 230 on. */
const BRIGHTEST = 250;
const LEAST_BRIGHT = 222;
const LEVEL_STEP = 4;
/** Cells across a page, and down. */
const GRID = 12;
/** Pixels looked at across a cell, and down. */
const SAMPLES = 4;
/** Where more of the page than this is as bright, it is lit so, and that is no reflection. */
const MOST_SHARE = 0.2;
/** So many cells away from a reflection the paper is no longer lit by it, and this much darker, levels: a lamp beside the page falls off more gently. */
const BESIDE_CELLS = 2;
const DARKER_BESIDE = 16;
/** All around, or nearly: beside bright paper a shadow may lie on one side. */
const BESIDE_SHARE = 0.75;
/** Of what would lie around it so much is on the page: what a shadow leaves bright lies along one of its sides. */
const SEEN_SHARE = 0.33;
/** Nothing else on the page comes this near to it, levels: between two shadows paper is as bright as it is beyond them. */
const ALONE_BY = 8;
/** Cells elsewhere that may. */
const MOST_ELSEWHERE = 1;
/** Share of a cell's pixels that its paper is brighter than: the others are ink. */
const PAPER_SHARE = 0.7;
/** Cells that make a reflection. */
const LEAST_CELLS = 2;

/** A cell of the page: where its middle is seen, and how bright its paper is (0 to 255); null where that is not in the picture. */
interface Cell {
  readonly at: Point;
  readonly paper: number;
}
type Cells = readonly (Cell | null)[];

/** The middle of a lamp's reflection, in image pixels, or null where there is none (islandOf). */
export function findGlare(image: PixelImage, page: Quad): Point | null {
  const cells = readCells(image, page);
  const island = islandOf(cells);
  return island === null ? null : middleOf(island.map((k) => cells[k]!.at));
}

/** A box around something on a page, in shares of its width and height. */
export interface PageBox {
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
}

/** What lies under a lamp's reflection on a page that was laid flat, or null where there is none (islandOf). */
export function glareBox(flat: PixelImage): PageBox | null {
  const island = islandOf(readCells(flat, wholePicture(flat.width, flat.height)));
  if (island === null) return null;
  const columns = island.map((k) => k % GRID);
  const rows = island.map((k) => Math.floor(k / GRID));
  const span = (cells: readonly number[]): number => (Math.max(...cells) + 1 - Math.min(...cells)) / GRID;
  return {
    left: Math.min(...columns) / GRID,
    top: Math.min(...rows) / GRID,
    width: span(columns),
    height: span(rows),
  };
}

/**
 * The cells of a lamp's reflection, or null: an island of paper, burnt out or nearly, that is brighter than all around it and
 * than the rest of the page.
 * Limits: a page that is bright as a whole is not glare; a reflection smaller than about a hundredth of the page is missed, and
 * so is one over a fifth of it.
 */
function islandOf(cells: Cells): readonly number[] | null {
  for (let level = BRIGHTEST; level >= LEAST_BRIGHT; level -= LEVEL_STEP) {
    const bright = Uint8Array.from(cells, (cell) => Number(cell !== null && cell.paper >= level));
    if (bright.reduce((sum, one) => sum + one, 0) > MOST_SHARE * cells.length) return null;
    const island = connectedRegions(bright, GRID, GRID)
      .map(({ pixels }) => pixels)
      .filter((pixels) => pixels.length >= LEAST_CELLS && standsOut(pixels, cells, level))
      .sort((p, q) => q.length - p.length)[0];
    if (island !== undefined) return island;
  }
  return null;
}

const middleOf = (places: readonly Point[]): Point => ({
  x: places.reduce((sum, p) => sum + p.x, 0) / places.length,
  y: places.reduce((sum, p) => sum + p.y, 0) / places.length,
});

/** Whether the paper is darker all around an island of cells of this level, the page does not end around most of it, and nothing else is as bright. */
function standsOut(island: readonly number[], cells: Cells, level: number): boolean {
  const reach = Array.from({ length: GRID + 2 * BESIDE_CELLS }, (_, k) => k - BESIDE_CELLS);
  const seen = reach.flatMap((y) =>
    reach.map((x) => ({
      cell: x < 0 || y < 0 || x >= GRID || y >= GRID ? null : cells[y * GRID + x]!,
      away: Math.min(...island.map((at) => Math.max(Math.abs((at % GRID) - x), Math.abs(Math.floor(at / GRID) - y)))),
    })),
  );
  const elsewhere = seen.filter(
    ({ cell, away }) => away > BESIDE_CELLS && cell !== null && cell.paper >= level - ALONE_BY,
  );
  if (elsewhere.length > MOST_ELSEWHERE) return false;
  const beside = seen.filter(({ away }) => away === BESIDE_CELLS);
  const onPage = beside.filter(({ cell }) => cell !== null);
  const darker = onPage.filter(({ cell }) => cell!.paper <= level - DARKER_BESIDE).length;
  return darker > 0 && darker >= BESIDE_SHARE * onPage.length && darker >= SEEN_SHARE * beside.length;
}

/** @param image - RGB, RGBA or grey; green stands for lightness */
function readCells({ width, height, channels, data }: PixelImage, page: Quad): Cells {
  const green = channels === 1 ? 0 : 1;
  return Array.from({ length: GRID * GRID }, (_, cell) => {
    const [i, j] = [cell % GRID, Math.floor(cell / GRID)];
    const levels: number[] = [];
    for (let k = 0; k < SAMPLES * SAMPLES; k++) {
      const p = placeOnQuad(
        page,
        (i + ((k % SAMPLES) + 0.5) / SAMPLES) / GRID,
        (j + (Math.floor(k / SAMPLES) + 0.5) / SAMPLES) / GRID,
      );
      const [x, y] = [Math.floor(p.x), Math.floor(p.y)];
      if (x >= 0 && y >= 0 && x < width && y < height) levels.push(data[(y * width + x) * channels + green]!);
    }
    return levels.length === 0
      ? null
      : { at: placeOnQuad(page, (i + 0.5) / GRID, (j + 0.5) / GRID), paper: quantile(levels, PAPER_SHARE) };
  });
}

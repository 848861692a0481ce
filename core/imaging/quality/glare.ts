import type { Point } from '../geometry/point';
import { placeOnQuad, type Quad } from '../geometry/quad';
import type { PixelImage } from '../raster/pixelImage';
import { connectedRegions } from '../raster/connectedRegions';
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
/** So many cells away from a reflection the paper is no longer lit by it, and this much darker: bright paper is darker there by a few levels only. */
const BESIDE_CELLS = 2;
const DARKER_BESIDE = 18;
/** All around, or nearly: beside bright paper a shadow may lie on one side. */
const BESIDE_SHARE = 0.6;
/** Of what would lie around it so much is on the page: what a shadow leaves bright lies along one of its sides. */
const SEEN_SHARE = 0.33;
/** Share of a cell's pixels that its paper is brighter than: the others are ink. */
const PAPER_SHARE = 0.7;
/** Burnt-out cells that make a reflection. */
const LEAST_CELLS = 2;

/** A cell of the page: where its middle is seen, how bright its paper is, and whether it is burnt out. */
interface Cell {
  readonly at: Point;
  readonly paper: number;
  readonly burnt: boolean;
}

/**
 * The middle of a reflection that burns the page out, in image pixels, or null: an island of burnt-out paper whose surroundings
 * are darker all around.
 * Limits: a page that is burnt out as a whole is not glare; a reflection smaller than about a hundredth of the page is missed.
 * @param image - RGB, RGBA or grey; green stands for lightness
 */
export function findGlare(image: PixelImage, page: Quad): Point | null {
  const cells = readCells(image, page);
  if (cells.filter(({ burnt }) => burnt).length > MOST_SHARE * cells.length) return null;
  const islands = connectedRegions(
    Uint8Array.from(cells, ({ burnt }) => Number(burnt)),
    GRID,
    GRID,
  );
  const found = islands
    .map(({ pixels }) => pixels)
    .filter((island) => island.length >= LEAST_CELLS && standsOut(island, cells))
    .sort((p, q) => q.length - p.length)[0];
  if (found === undefined) return null;
  const places = found.map((k) => cells[k]!.at);
  return {
    x: places.reduce((sum, p) => sum + p.x, 0) / places.length,
    y: places.reduce((sum, p) => sum + p.y, 0) / places.length,
  };
}

/** Whether the paper is darker all around an island of cells, and the page does not end around most of it. */
function standsOut(island: readonly number[], cells: readonly Cell[]): boolean {
  const reach = Array.from({ length: GRID + 2 * BESIDE_CELLS }, (_, k) => k - BESIDE_CELLS);
  const beside = reach.flatMap((y) =>
    reach.flatMap((x) => {
      const away = island.map((at) => Math.max(Math.abs((at % GRID) - x), Math.abs(Math.floor(at / GRID) - y)));
      if (Math.min(...away) !== BESIDE_CELLS) return [];
      return [x < 0 || y < 0 || x >= GRID || y >= GRID ? null : cells[y * GRID + x]!];
    }),
  );
  const onPage = beside.filter((cell) => cell !== null);
  const darker = onPage.filter(({ paper }) => paper <= BURNT - DARKER_BESIDE).length;
  return darker > 0 && darker >= BESIDE_SHARE * onPage.length && darker >= SEEN_SHARE * beside.length;
}

function readCells({ width, height, channels, data }: PixelImage, page: Quad): Cell[] {
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
    return {
      at: placeOnQuad(page, (i + 0.5) / GRID, (j + 0.5) / GRID),
      paper: quantile(levels, PAPER_SHARE, 0),
      burnt: levels.filter((level) => level >= BURNT).length >= CELL_SHARE * SAMPLES * SAMPLES,
    };
  });
}

import { fieldCells } from '../light/fieldCells';
import { fillMasked } from '../light/fillMasked';
import type { PaperField } from '../light/paperField';
import { smoothSurface } from '../light/smoothSurface';
import { boxBlur } from '../raster/boxBlur';
import { connectedRegions } from '../raster/connectedRegions';
import { enlargePlane } from '../raster/enlargePlane';
import { extremeFilter } from '../raster/morphology';
import type { PixelImage } from '../raster/pixelImage';
import { quantile } from '../raster/quantile';
import { decodeSrgb, encodeSrgb, LEVEL_OF_LIGHT, LIGHT_OF_LEVEL, LIGHT_STEPS } from '../raster/transferCurve';

/*
 * A lamp's reflection lays the same light over paper and ink, so that ink looks paler there. What it adds is taken away again.
 * 1. A reflection is an island of paper that is burnt out, or nearly, and brighter than the light around it explains; and ink
 *    that can be seen in it is paler than around it. A lamp that lights a place makes no ink paler.
 * 2. What the paper would show without it is carried over from around. Where the paper is not burnt out, the reflection is what
 *    it shows more than that, in linear light.
 * 3. Where it is burnt out, that is too little. Ink that is still there tells the rest: it is thought to be as dark, beside its
 *    paper, as the ink around the island.
 * 4. Light is taken from page and paper alike, so that paper stays paper.
 * Ink that is burnt out as well is gone, and stays so: nothing is drawn where nothing is seen. An island that is burnt out at the
 * page's border is left alone: what lies there may be beyond the photo.
 * The numbers were set on six pages of the bench's second camera with a reflection laid over, and so that of 72 scored photos only
 * such with a reflection change.
 */

/** Cells across the page on which the reflection is measured, and down: of A4 they are 4 by 6 mm. */
const CELLS = 48;
/** Paper in a reflection is brighter than the light around it explains by this factor, in linear light. */
const EXCESS = 1.08;
/** Paper that sends back more than this, linear, may be burnt out. */
const BURNT = 0.9;
/** From here on it surely is. */
const CUT_OFF = 0.985;
/** Cells that make a reflection, and the share of the page that is too large for one. */
const LEAST_CELLS = 16;
const MOST_SHARE = 0.35;
/** What belongs to the reflection around its island, in cells. */
const RIM_CELLS = 3;
/** Around that, in cells, lies the ink that it is compared with. */
const AROUND_CELLS = 12;
/** Share of a cell's pixels that are darker than what stands for its ink. */
const INK_SHARE = 0.02;
/** Ink sends back at most this share of its paper's light; under a reflection this. */
const INK_AT_MOST = 0.45;
const VEILED_INK_AT_MOST = 0.93;
/** Veiled ink sends back more of its paper's light than the ink around does, by this at least. */
const PALER = 0.06;
/** So much of the paper's light is left, whatever its ink says: what is under it is strengthened by 1 / 0.2 at most. */
const LEAST_LEFT = 0.2;
/** Cells with ink that are enough to compare with. */
const LEAST_INKED = 3;

export interface ClearedPage {
  readonly page: PixelImage;
  readonly field: PaperField;
}

/**
 * Takes a lamp's reflection off a page and off its light; method and limits above.
 * @param page - flat, grey or RGB, 8 bits coded
 * @param field - what its bare paper shows
 * @returns both as they are where there is none
 */
export function takeOutGlare(page: PixelImage, field: PaperField): ClearedPage {
  const paper = field.planes.map((plane) => paperCells(plane, field));
  const glare = islandsOf(paper[greenOf(paper)]!)
    .map((island) => measureGlare(readInk(page, paper, island)))
    .filter((each) => each !== null);
  if (glare.length === 0) return { page, field };
  const added = paper.map((_, c) => {
    const all = Float32Array.from({ length: CELLS * CELLS }, (__, k) => Math.max(...glare.map((each) => each[c]![k]!)));
    return enlargePlane(all, { width: CELLS, height: CELLS }, field);
  });
  return { page: pageWithout(page, field, added), field: fieldWithout(field, added) };
}

const greenOf = (planes: readonly unknown[]): number => (planes.length === 1 ? 0 : 1);

/** What bare paper shows in CELLS rows of CELLS, linear: 1 for the brightest that a photo can show. */
function paperCells(plane: Float32Array, { width, height }: PaperField): Float32Array {
  return Float32Array.from({ length: CELLS * CELLS }, (_, k) => {
    const x = Math.floor(((k % CELLS) + 0.5) * (width / CELLS));
    const y = Math.floor((Math.floor(k / CELLS) + 0.5) * (height / CELLS));
    return decodeSrgb(plane[y * width + x]! / 255);
  });
}

/** Places that may lie in a reflection, by their light alone; 1 in an island, each for itself. */
function islandsOf(paper: Float32Array): Float32Array[] {
  if (!paper.some((light) => light > BURNT)) return [];
  const usual = smoothSurface(paper, new Uint8Array(paper.length).fill(1), CELLS, CELLS);
  const bright = Uint8Array.from(paper, (light, k) => Number(light > EXCESS * usual[k]!));
  return connectedRegions(bright, CELLS, CELLS)
    .filter(({ pixels }) => pixels.length >= LEAST_CELLS && pixels.length <= MOST_SHARE * paper.length)
    .filter(({ pixels }) => !pixels.some((k) => isOnBorder(k) && paper[k]! > CUT_OFF))
    .filter(({ pixels }) => pixels.some((k) => paper[k]! > BURNT))
    .map(({ pixels }) => {
      const island = new Float32Array(paper.length);
      for (const k of pixels) island[k] = 1;
      return island;
    });
}

const isOnBorder = (cell: number): boolean =>
  cell < CELLS || cell >= CELLS * (CELLS - 1) || cell % CELLS === 0 || cell % CELLS === CELLS - 1;

/** An island and what is around it. */
interface Cells {
  readonly paper: readonly Float32Array[];
  /** What the darkest of each cell shows, beside its paper: 1 for bare paper. */
  readonly ink: Float32Array;
  /** 1 in and near the reflection, and 1 in a wider belt with it. */
  readonly near: Float32Array;
  readonly around: Float32Array;
}

function readInk(page: PixelImage, paper: readonly Float32Array[], island: Float32Array): Cells {
  const widened = (radius: number): Float32Array => extremeFilter(island, CELLS, CELLS, { extreme: 'largest', radius });
  const [near, around] = [widened(RIM_CELLS), widened(RIM_CELLS + AROUND_CELLS)];
  const green = greenOf(paper);
  const ink = Float32Array.from(around, (one, k) => (one === 0 ? 1 : darkestIn(page, k, green) / paper[green]![k]!));
  return { paper, ink, near, around };
}

/** Light of the darkest INK_SHARE of a cell's pixels. */
function darkestIn({ width, height, channels, data }: PixelImage, cell: number, channel: number): number {
  const [i, j] = [cell % CELLS, Math.floor(cell / CELLS)];
  const levels: number[] = [];
  for (let y = Math.floor((j * height) / CELLS); y < Math.floor(((j + 1) * height) / CELLS); y++)
    for (let x = Math.floor((i * width) / CELLS); x < Math.floor(((i + 1) * width) / CELLS); x++)
      levels.push(data[(y * width + x) * channels + channel]!);
  return decodeSrgb(quantile(levels, INK_SHARE, 255) / 255);
}

/** What a reflection adds, a plane a channel, linear; null where no ink in it is paler than around it. */
function measureGlare({ paper, ink, near, around }: Cells): readonly Float32Array[] | null {
  const green = greenOf(paper);
  const inkAround = [...ink].filter((share, k) => near[k] === 0 && around[k] === 1 && share < INK_AT_MOST);
  const veiled = [...ink].filter((share, k) => near[k] === 1 && share < VEILED_INK_AT_MOST);
  if (inkAround.length < LEAST_INKED || veiled.length < LEAST_INKED) return null;
  // the paler of it tells: some cells hold little more than a stroke's rim
  const usual = quantile(inkAround, 0.75);
  if (quantile(veiled, 0.75) < usual + PALER) return null;
  const masked = Uint8Array.from(near);
  const added = paper.map((plane) => {
    const without = boxBlur(fillMasked(plane, masked, CELLS, CELLS), CELLS, CELLS, { radius: 2 });
    return plane.map((light, k) => (near[k] === 0 ? 0 : Math.max(0, light - without[k]!)));
  });
  const burnt = paper[green]!.map((light, k) => Number(near[k] === 1 && light > CUT_OFF));
  const untold = Uint8Array.from(burnt, (one, k) => Number(one === 0 || ink[k]! > VEILED_INK_AT_MOST));
  if (!untold.includes(0)) return added;
  // so much of its paper's light makes the ink as dark as usual, once it is taken from both
  const shares = ink.map((share) => Math.max(0, (share - usual) / (1 - usual)));
  const byInk = boxBlur(fillMasked(shares, untold, CELLS, CELLS), CELLS, CELLS, { radius: 1 });
  const trusted = boxBlur(burnt, CELLS, CELLS, { radius: 1 });
  return added.map((plane, c) =>
    plane.map((light, k) => {
      const all = paper[c]![k]!;
      const more = Math.max(0, byInk[k]! * all - light);
      return Math.min((1 - LEAST_LEFT) * all, light + trusted[k]! * more);
    }),
  );
}

/** Pages are darkened where the reflection lies; levels are looked up, as most are asked for often. */
function pageWithout(page: PixelImage, field: PaperField, glare: readonly Float32Array[]): PixelImage {
  const { width, height, channels } = page;
  const data = page.data.slice();
  const { columnOf, rowOf } = fieldCells(page, field);
  for (let y = 0, at = 0; y < height; y++)
    for (let x = 0; x < width; x++, at += channels) {
      const cell = rowOf[y]! + columnOf[x]!;
      for (let c = 0; c < glare.length; c++) {
        const added = glare[c]![cell]!;
        if (added > 0)
          data[at + c] = LEVEL_OF_LIGHT[Math.max(0, (LIGHT_OF_LEVEL[data[at + c]!]! - added) * LIGHT_STEPS) | 0]!;
      }
    }
  return { width, height, channels, data };
}

/** Noise grows with the strength that is given back to what was veiled: as the curve is steeper in the dark, by this power. */
const NOISE_POWER = 2.3;

function fieldWithout(field: PaperField, glare: readonly Float32Array[]): PaperField {
  const planes = field.planes.map((plane, c) =>
    plane.map((level, k) => {
      const added = glare[c]![k]!;
      return added === 0 ? level : Math.max(1, 255 * encodeSrgb(Math.max(0, decodeSrgb(level / 255) - added)));
    }),
  );
  const green = greenOf(planes);
  const [before, after] = [field.planes[green]!, planes[green]!];
  const noise = field.noise.map((share, k) =>
    before[k] === after[k] ? share : share * (before[k]! / after[k]!) ** NOISE_POWER,
  );
  return { ...field, planes, noise };
}

import { pageJaccard } from '../../core/imaging/geometry/jaccard';
import { distance, type Point } from '../../core/imaging/geometry/point';
import type { Quad } from '../../core/imaging/geometry/quad';
import { startRecipes } from '../../core/work/intake/startRecipe';
import type { Recipe } from '../../core/work/recipe/recipe';
import { shapeOf } from '../../core/work/render/renderPage';
import { mean, percent, quantile } from '../statistics';
import { openBook } from './bentSurface';
import { capture, type Capture } from './capture';
import { chanceOf } from './chance';
import { LINED, linesLaid, type NearScore } from './fillsPicture';
import { inkOffMm, trueCorners } from './laidFlat';
import { PAPERS, paperOf, type Paper, type PaperKind } from './paper';

/*
 * Open books shot as spreads: whether they are cut at the fold, and how flat either page comes out. Seeds as in bends.ts.
 */

/** A5, B5 and quarto, mm. */
const BOOKS = [
  [148, 210],
  [176, 250],
  [190, 240],
] as const;
/** Outlines of pages at least this right are asked how flat they come out. */
const RIGHT = 0.95;

/** One page of a spread as it came out. */
export interface BookPageScore {
  readonly seed: number;
  readonly paper: PaperKind;
  readonly jaccard: number;
  readonly confidence: number;
  /** Mean over the page's ink; NaN where the outline is wrong. */
  readonly mm: number;
}

interface BookShot {
  readonly kind: PaperKind;
  readonly pages: readonly [Paper, Paper];
  readonly shot: Capture;
}

/** An open book with two pages of the same kind, on a desk or filling the picture. */
export async function bookShotOf(seed: number, near = false): Promise<BookShot> {
  const chance = chanceOf(seed);
  const kinds = near ? LINED : PAPERS;
  const kind = kinds[seed % kinds.length]!;
  const size = [chance.one(BOOKS)];
  const pages = [await paperOf(kind, chance, size), await paperOf(kind, chance, size)] as const;
  const surface = openBook(pages[0].widthMm, pages[0].heightMm, chance);
  return { kind, pages, shot: capture(joined(pages), surface, chance, { sideways: true, near }) };
}

/** Two pages side by side as one sheet. */
function joined([left, right]: readonly [Paper, Paper]): Paper {
  const width = left.width + right.width;
  const data = new Uint8Array(3 * width * left.height);
  for (let y = 0; y < left.height; y++) {
    data.set(left.data.subarray(3 * y * left.width, 3 * (y + 1) * left.width), 3 * y * width);
    data.set(right.data.subarray(3 * y * right.width, 3 * (y + 1) * right.width), 3 * (y * width + left.width));
  }
  return { ...left, widthMm: left.widthMm + right.widthMm, width, data, inkMm: [] };
}

/** Shoots a book, takes it in as a spread and measures both pages. */
export async function scoreBook(seed: number): Promise<BookPageScore[]> {
  const { kind, pages, shot } = await bookShotOf(seed);
  const focalRatio = seed % 2 === 0 ? null : shot.focalRatio;
  const recipes = startRecipes(shot.image, { finish: 'asshot', kind: 'spread', focalRatio });
  return pages.map((page, side) => {
    const { widthMm: w, heightMm: h } = page;
    const seenAt = (x: number, y: number): Point => shot.seenAt(x + side * w, y);
    const truth = trueCorners(page, seenAt);
    const recipe = nearest(recipes, truth);
    const { corners, confidence = 0 } = recipe.outline;
    const score = { seed, paper: kind, jaccard: pageJaccard(corners, truth, w / h), confidence, mm: NaN };
    if (score.jaccard < RIGHT) return score;
    const shape = shapeOf(shot.image, { ...recipe, quarterTurns: 0 });
    return { ...score, mm: inkOffMm(shape, page, seenAt) };
  });
}

/** Shoots a book from so near that it fills the picture and measures the lines of both pages. */
export async function scoreNearBook(seed: number): Promise<NearScore[]> {
  const { kind, pages, shot } = await bookShotOf(seed, true);
  const focalRatio = seed % 2 === 0 ? null : shot.focalRatio;
  const recipes = startRecipes(shot.image, { finish: 'asshot', kind: 'spread', focalRatio });
  return pages.map((page, side) => {
    const seenAt = (x: number, y: number): Point => shot.seenAt(x + side * page.widthMm, y);
    const recipe = nearest(recipes, trueCorners(page, seenAt));
    return {
      seed,
      bend: 'book',
      paper: kind,
      ...linesLaid(shapeOf(shot.image, recipe), { image: shot.image, seenAt }, page),
    };
  });
}

/** The recipe whose page lies nearest to a true one. */
function nearest(recipes: readonly Recipe[], truth: Quad): Recipe {
  const middle = (quad: Quad): Point => ({ x: mean(quad.map(({ x }) => x)), y: mean(quad.map(({ y }) => y)) });
  const away = ({ outline }: Recipe): number => distance(middle(outline.corners), middle(truth));
  return recipes.reduce((p, q) => (away(q) < away(p) ? q : p));
}

/** Prints how many pages are cut out rightly, and how flat these are. */
export function printBooks(title: string, scores: readonly BookPageScore[]): void {
  const row = (name: string, part: readonly BookPageScore[]): Record<string, string | number> => {
    const known = part.map(({ mm }) => mm).filter((mm) => !Number.isNaN(mm));
    return {
      '': name,
      pages: part.length,
      'outline right': percent(mean(part.map(({ jaccard }) => (jaccard >= RIGHT ? 1 : 0)))),
      'mean Jaccard': mean(part.map(({ jaccard }) => jaccard)).toFixed(3),
      'wrong and believed': part.filter(({ jaccard, confidence }) => jaccard < 0.9 && confidence >= 0.5).length,
      'mm, median': quantile(known, 0.5).toFixed(2),
      'mm, 85 %': quantile(known, 0.85).toFixed(2),
      'within 1 mm': percent(mean(known.map((mm) => (mm <= 1 ? 1 : 0)))),
    };
  };
  console.log(`\n${title}`);
  console.table([
    row('all', scores),
    ...PAPERS.map((paper) =>
      row(
        paper,
        scores.filter((each) => each.paper === paper),
      ),
    ),
  ]);
}

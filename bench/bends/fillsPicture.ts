import type { PageShape } from '../../core/imaging/flatten/flattenPage';
import { photoToPage } from '../../core/imaging/flatten/placeOnPage';
import { shapeOf } from '../../core/work/render/renderPage';
import { startRecipes } from '../../core/work/intake/startRecipe';
import { mean, percent, quantile } from '../statistics';
import { bentSurface, type Bend } from './bentSurface';
import { capture, type Capture } from './capture';
import { chanceOf } from './chance';
import { paperOf, type Paper, type PaperKind } from './paper';

/*
 * Pages shot from so near that no side of them is seen: whether their lines come out straight and level. Seeds as in bends.ts.
 */

/** Papers with lines on them. */
export const LINED = ['ruled', 'squared', 'print', 'table'] as const satisfies readonly PaperKind[];
/** How pages lie that are shot from near by. */
const NEAR_BENDS = ['flat', 'curl', 'arch', 'wave'] as const satisfies readonly Bend[];
/** Lines are straight within this share of the page's height, as a standard deviation. */
const STRAIGHT_WITHIN = 0.001;
/** And level within so many degrees. */
const LEVEL_WITHIN = 0.3;
/** Places along a line that are looked at. */
const PLACES = 24;

export interface NearScore {
  readonly seed: number;
  /** Or that it is one of two pages of an open book. */
  readonly bend: Bend | 'book';
  readonly paper: PaperKind;
  /** How far lines are from straight, as a share of the page's height. */
  readonly stray: number;
  /** How far they are from level, in degrees. */
  readonly tilt: number;
}

/** A sheet with lines on it that fills the picture. */
export async function nearShotOf(seed: number): Promise<{ bend: Bend; kind: PaperKind; paper: Paper; shot: Capture }> {
  const chance = chanceOf(seed);
  const bend = NEAR_BENDS[seed % NEAR_BENDS.length]!;
  const kind = LINED[Math.floor(seed / NEAR_BENDS.length) % LINED.length]!;
  const paper = await paperOf(kind, chance);
  return {
    bend,
    kind,
    paper,
    shot: capture(paper, bentSurface(bend, paper.widthMm, paper.heightMm, chance), chance, { near: true }),
  };
}

/** Shoots, lays flat and measures one. */
export async function scoreNear(seed: number): Promise<NearScore> {
  const { bend, kind, paper, shot } = await nearShotOf(seed);
  const focalRatio = seed % 2 === 0 ? null : shot.focalRatio;
  const [recipe] = startRecipes(shot.image, { finish: 'asshot', kind: 'sheet', focalRatio });
  const { stray, tilt } = linesLaid(shapeOf(shot.image, recipe), shot, paper);
  return { seed, bend, paper: kind, stray, tilt };
}

/** How far the lines of a page that was laid flat are from straight, as a share of its height, and from level, in degrees; of what is in the picture. */
export function linesLaid(
  shape: PageShape,
  { image, seenAt }: Pick<Capture, 'image' | 'seenAt'>,
  { heightMm, inkMm }: Paper,
): { readonly stray: number; readonly tilt: number } {
  const toPage = photoToPage(shape);
  const { width, height } = shape.size;
  // where nothing is written nothing has to be straight
  const xs = inkMm.map(([x]) => x);
  const [first, last] = [quantile(xs, 0), quantile(xs, 1)];
  const lines = Array.from({ length: 19 }, (_, k) => ((k + 0.5) / 19) * heightMm).flatMap((y) => {
    const seen = Array.from({ length: PLACES }, (_, i) => seenAt(first + ((i + 0.5) / PLACES) * (last - first), y));
    const inside = seen.filter((p) => p.x > 0 && p.y > 0 && p.x < image.width && p.y < image.height);
    return inside.length < PLACES / 2
      ? []
      : [inside.map((p) => toPage(p)).map(({ x, y: v }) => [x * width, v * height] as const)];
  });
  const measured = lines.map((places) => {
    const [mx, my] = [mean(places.map(([x]) => x)), mean(places.map(([, y]) => y))];
    const [sxx, sxy, syy] = [
      mean(places.map(([x]) => (x - mx) ** 2)),
      mean(places.map(([x, y]) => (x - mx) * (y - my))),
      mean(places.map(([, y]) => (y - my) ** 2)),
    ];
    // a page that was turned is level where its lines stand upright
    const turned = sxx < syy;
    const slope = turned ? sxy / syy : sxy / sxx;
    const stray = Math.sqrt(Math.max(0, turned ? sxx - slope * sxy : syy - slope * sxy)) / (turned ? width : height);
    return { stray, tilt: (Math.atan(Math.abs(slope)) * 180) / Math.PI };
  });
  return { stray: mean(measured.map((m) => m.stray)), tilt: mean(measured.map((m) => m.tilt)) };
}

/** Prints how many of them come out straight and level. */
export function printNear(title: string, scores: readonly NearScore[]): void {
  const row = (name: string, part: readonly NearScore[]): Record<string, string | number> => ({
    '': name,
    pages: part.length,
    'straight and level': percent(
      mean(part.map(({ stray, tilt }) => (stray <= STRAIGHT_WITHIN && tilt <= LEVEL_WITHIN ? 1 : 0))),
    ),
    'stray, % of height, median': (
      100 *
      quantile(
        part.map(({ stray }) => stray),
        0.5,
      )
    ).toFixed(3),
    '90 %': (
      100 *
      quantile(
        part.map(({ stray }) => stray),
        0.9,
      )
    ).toFixed(3),
    'tilt in degrees, median': quantile(
      part.map(({ tilt }) => tilt),
      0.5,
    ).toFixed(2),
    '90 % ': quantile(
      part.map(({ tilt }) => tilt),
      0.9,
    ).toFixed(2),
  });
  console.log(`\n${title}`);
  console.table([
    row('all', scores),
    ...NEAR_BENDS.filter((bend) => scores.some((each) => each.bend === bend)).map((bend) =>
      row(
        bend,
        scores.filter((each) => each.bend === bend),
      ),
    ),
    ...LINED.map((paper) =>
      row(
        paper,
        scores.filter((each) => each.paper === paper),
      ),
    ),
  ]);
}

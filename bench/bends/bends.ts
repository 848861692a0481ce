import { mkdirSync, rmSync } from 'node:fs';
import path from 'node:path';
import sharp from 'sharp';
import { detectOutline, type DetectedOutline } from '../../core/imaging/detect/detectOutline';
import { flattenPage, type PageShape } from '../../core/imaging/flatten/flattenPage';
import { pageJaccard } from '../../core/imaging/geometry/jaccard';
import type { Point } from '../../core/imaging/geometry/point';
import { recipeFromOutline } from '../../core/work/intake/recipeFromOutline';
import { shapeOf } from '../../core/work/render/renderPage';
import { mean, percent, quantile } from '../statistics';
import { LINED, printNear, scoreNear } from './fillsPicture';
import { printGrounds, scoreGround } from './grounds';
import { printBooks, scoreBook, scoreNearBook } from './book';
import { BENDS, bentSurface, crumpled, type Bend } from './bentSurface';
import { capture, type Capture } from './capture';
import { chanceOf } from './chance';
import { inkOffMm, trueCorners } from './laidFlat';
import { PAPERS, paperOf, type Paper, type PaperKind } from './paper';

/*
 * How flat pages come out of sheets that bend, on captures that share no code and no model with the simulator the product was
 * made on. Seeds of BUILT_ON were looked at while it was made; those of JUDGED_ON were not.
 */

const BUILT_ON = { from: 700, shots: 64 };
const JUDGED_ON = { from: 900, shots: 64 };
/** The first of these were looked at while the mesh was set. */
const CRUMPLED_BUILT_ON = { from: 3000, shots: 24 };
const CRUMPLED_JUDGED_ON = { from: 3100, shots: 24 };
/** Books have two pages each. */
const BOOKS_BUILT_ON = { from: 700, shots: 32 };
const BOOKS_JUDGED_ON = { from: 900, shots: 32 };
const WORST_SHOWN = 10;
/** Outlines at least this right are asked how flat they come out. */
const RIGHT = 0.95;

interface Score {
  readonly seed: number;
  readonly bend: Bend | 'crumpled';
  readonly paper: PaperKind;
  readonly jaccard: number;
  readonly confidence: number;
  /** Mean over the page's ink; NaN where the outline is wrong. */
  readonly mm: number;
  readonly ms: number;
}

/** One shot of each bend in turn. */
export async function shotOf(seed: number): Promise<{ bend: Bend; kind: PaperKind; paper: Paper; shot: Capture }> {
  const chance = chanceOf(seed);
  const bend = BENDS[seed % BENDS.length]!;
  const kind = PAPERS[Math.floor(seed / BENDS.length) % PAPERS.length]!;
  const paper = await paperOf(kind, chance);
  return { bend, kind, paper, shot: capture(paper, bentSurface(bend, paper.widthMm, paper.heightMm, chance), chance) };
}

/** How the page lies by its outline and what stands on it; every second file tells its focal length. */
function shapeFound(seed: number, found: DetectedOutline, { image, focalRatio }: Capture): PageShape {
  const told = seed % 2 === 0 ? null : focalRatio;
  const recipe = recipeFromOutline(image, found, { finish: 'asshot', kind: 'sheet', focalRatio: told });
  return shapeOf(image, { ...recipe, quarterTurns: 0 });
}

const score = async (seed: number): Promise<Score> => scoreShot(seed, await shotOf(seed));

/** A crumpled sheet with lines on it. */
async function scoreCrumpled(seed: number): Promise<Score> {
  const chance = chanceOf(seed);
  const kind = LINED[seed % LINED.length]!;
  const paper = await paperOf(kind, chance);
  const shot = capture(paper, crumpled(paper.widthMm, paper.heightMm, chance), chance);
  return scoreShot(seed, { bend: 'crumpled', kind, paper, shot });
}

interface Shot {
  readonly bend: Score['bend'];
  readonly kind: PaperKind;
  readonly paper: Paper;
  readonly shot: Capture;
}

function scoreShot(seed: number, { bend, kind, paper, shot }: Shot): Score {
  const started = performance.now();
  const found = detectOutline(shot.image);
  const lost = { seed, bend, paper: kind, jaccard: 0, confidence: found?.confidence ?? 0, mm: NaN };
  if (found === null) return { ...lost, ms: performance.now() - started };
  const truth = trueCorners(paper, shot.seenAt);
  const jaccard = pageJaccard(found.quad, truth, paper.widthMm / paper.heightMm);
  const shape = shapeFound(seed, found, shot);
  const ms = performance.now() - started;
  if (jaccard < RIGHT) return { ...lost, jaccard, ms };
  return { ...lost, jaccard, mm: inkOffMm(shape, paper, shot.seenAt), ms };
}

function row(name: string, part: readonly Score[]): Record<string, string | number> {
  const known = part.map((each) => each.mm).filter((mm) => !Number.isNaN(mm));
  return {
    '': name,
    shots: part.length,
    'outline right': percent(mean(part.map((each) => (each.jaccard >= RIGHT ? 1 : 0)))),
    'mean Jaccard': mean(part.map((each) => each.jaccard)).toFixed(3),
    'wrong and believed': part.filter((each) => each.jaccard < 0.9 && each.confidence >= 0.5).length,
    'mm, median': quantile(known, 0.5).toFixed(2),
    'mm, 85 %': quantile(known, 0.85).toFixed(2),
    'within 1 mm': percent(mean(known.map((mm) => (mm <= 1 ? 1 : 0)))),
    'within 0.5 mm': percent(mean(known.map((mm) => (mm <= 0.5 ? 1 : 0)))),
    'ms, median': quantile(
      part.map((each) => each.ms),
      0.5,
    ).toFixed(0),
  };
}

function print(title: string, scores: readonly Score[]): void {
  console.log(`\n${title}`);
  console.table([
    row(
      'bent',
      scores.filter(({ bend }) => bend !== 'flat'),
    ),
    ...BENDS.map((bend) =>
      row(
        bend,
        scores.filter((each) => each.bend === bend),
      ),
    ),
    ...PAPERS.map((paper) =>
      row(
        `bent, ${paper}`,
        scores.filter((each) => each.bend !== 'flat' && each.paper === paper),
      ),
    ),
  ]);
}

function printCrumpled(title: string, scores: readonly Score[]): void {
  console.log(`\n${title}`);
  console.table([
    row('crumpled', scores),
    ...LINED.map((paper) =>
      row(
        paper,
        scores.filter((each) => each.paper === paper),
      ),
    ),
  ]);
}

/** Scores seeds one after another. */
async function each<T>({ from, shots }: typeof BUILT_ON, scoreOf: (seed: number) => Promise<T>): Promise<T[]> {
  const scores: T[] = [];
  for (let seed = from; seed < from + shots; seed++) scores.push(await scoreOf(seed));
  return scores;
}

/** Prints all tables and draws the worst of those the product was made on, as shot and as laid flat. */
export async function benchBends(outFolder: string): Promise<void> {
  const built = await each(BUILT_ON, score);
  print('Bent sheets, seeds that were looked at', built);
  print('Bent sheets, seeds for judging', await each(JUDGED_ON, score));
  printNear('Pages that fill the picture, seeds that were looked at', await each(BUILT_ON, scoreNear));
  printNear('Pages that fill the picture, seeds for judging', await each(JUDGED_ON, scoreNear));
  printGrounds('Outlines by what the sheet lies on, seeds that were looked at', await each(BUILT_ON, scoreGround));
  printGrounds('Outlines by what the sheet lies on, seeds for judging', await each(JUDGED_ON, scoreGround));
  printCrumpled('Crumpled sheets, seeds that were looked at', await each(CRUMPLED_BUILT_ON, scoreCrumpled));
  printCrumpled('Crumpled sheets, seeds for judging', await each(CRUMPLED_JUDGED_ON, scoreCrumpled));
  printBooks('Open books, seeds that were looked at', (await each(BOOKS_BUILT_ON, scoreBook)).flat());
  printBooks('Open books, seeds for judging', (await each(BOOKS_JUDGED_ON, scoreBook)).flat());
  printNear(
    'Open books that fill the picture, seeds that were looked at',
    (await each(BOOKS_BUILT_ON, scoreNearBook)).flat(),
  );
  printNear('Open books that fill the picture, seeds for judging', (await each(BOOKS_JUDGED_ON, scoreNearBook)).flat());
  rmSync(outFolder, { recursive: true, force: true });
  mkdirSync(outFolder, { recursive: true });
  const badness = ({ mm }: Score): number => (Number.isNaN(mm) ? 1000 : mm);
  const worst = [...built].sort((p, q) => badness(q) - badness(p)).slice(0, WORST_SHOWN);
  for (const [rank, { seed, bend }] of worst.entries())
    await draw(seed, path.join(outFolder, `${String(rank + 1).padStart(2, '0')}-${seed}-${bend}.jpg`));
  console.log(
    `\nThe worst ${worst.length} are drawn in ${outFolder} (as shot, with truth green and found magenta; laid flat).`,
  );
}

async function draw(seed: number, file: string): Promise<void> {
  const { paper, shot } = await shotOf(seed);
  const { image } = shot;
  const found = detectOutline(image);
  const rim = (of: (t: number) => Point): Point[] => Array.from({ length: 25 }, (_, k) => of(k / 24));
  const { widthMm: w, heightMm: h } = paper;
  const truth = [
    ...rim((t) => shot.seenAt(t * w, 0)),
    ...rim((t) => shot.seenAt(w, t * h)),
    ...rim((t) => shot.seenAt((1 - t) * w, h)),
    ...rim((t) => shot.seenAt(0, (1 - t) * h)),
  ];
  const polygon = (points: readonly Point[], colour: string): string =>
    `<polygon points="${points.map((p) => `${p.x / 2},${p.y / 2}`).join(' ')}" fill="none" stroke="${colour}" stroke-width="2"/>`;
  const size = { width: image.width / 2, height: image.height / 2 };
  const flat = found === null ? null : flattenPage(image, shapeFound(seed, found, shot), { width: 700, height: 990 });
  const ring = found === null ? '' : polygon(found.quad, '#ff00c0');
  const shown = await sharp(image.data, { raw: { width: image.width, height: image.height, channels: 3 } })
    .resize(size.width, size.height)
    .composite([
      {
        input: Buffer.from(
          `<svg width="${size.width}" height="${size.height}">${polygon(truth, '#00c040')}${ring}</svg>`,
        ),
      },
    ])
    .png()
    .toBuffer();
  const laid =
    flat === null
      ? []
      : [
          {
            input: await sharp(flat.data, {
              raw: { width: flat.width, height: flat.height, channels: flat.channels as 3 },
            })
              .png()
              .toBuffer(),
            left: size.width + 10,
            top: 0,
          },
        ];
  await sharp({ create: { width: size.width + 720, height: size.height, channels: 3, background: '#888' } })
    .composite([{ input: shown, left: 0, top: 0 }, ...laid])
    .jpeg({ quality: 85 })
    .toFile(file);
}

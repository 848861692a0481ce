import { detectOutline } from '../../core/imaging/detect/detectOutline';
import { clipPolygon, jaccardIndex, pageJaccard } from '../../core/imaging/geometry/jaccard';
import { wholePicture } from '../../core/imaging/geometry/quad';
import { mean, percent, quantile } from '../statistics';
import { bentSurface, BENDS } from './bentSurface';
import { capture, type Capture } from './capture';
import { chanceOf } from './chance';
import { PAPERS, paperOf, type Paper } from './paper';

/*
 * Outlines where the paper hardly stands out: on white cloth in folds, on another sheet of its own kind, and where it runs out
 * of the picture.
 */

/** What a sheet lies on, or that the picture cuts it; each in turn. */
const GROUNDS = {
  desk: {},
  cloth: { ground: 'cloth' },
  sheet: { ground: 'sheet' },
  cut: { cut: true },
} as const;
type Ground = keyof typeof GROUNDS;
const EACH_GROUND = Object.keys(GROUNDS) as Ground[];

/** Outlines at least this right lay a page flat. */
const RIGHT = 0.95;
/** Below this an outline is wrong. */
const WRONG = 0.9;
/** From this confidence on an outline is believed. */
const BELIEVED = 0.5;

export interface GroundScore {
  readonly ground: Ground;
  readonly jaccard: number;
  /** The same for what of the sheet is in the picture, counted there. */
  readonly jaccardSeen: number;
  readonly confidence: number;
}

/** A sheet on each ground in turn. */
export async function groundShotOf(seed: number): Promise<{ ground: Ground; paper: Paper; shot: Capture }> {
  const chance = chanceOf(seed);
  const ground = EACH_GROUND[seed % EACH_GROUND.length]!;
  const turn = Math.floor(seed / EACH_GROUND.length);
  const bend = BENDS[turn % BENDS.length]!;
  const paper = await paperOf(PAPERS[turn % PAPERS.length]!, chance);
  const surface = bentSurface(bend, paper.widthMm, paper.heightMm, chance);
  return { ground, paper, shot: capture(paper, surface, chance, GROUNDS[ground]) };
}

/** Shoots one and looks for its outline. */
export async function scoreGround(seed: number): Promise<GroundScore> {
  const { ground, paper, shot } = await groundShotOf(seed);
  const { widthMm: w, heightMm: h } = paper;
  const found = detectOutline(shot.image);
  const truth = [shot.seenAt(0, 0), shot.seenAt(w, 0), shot.seenAt(w, h), shot.seenAt(0, h)] as const;
  const frame = wholePicture(shot.image.width, shot.image.height);
  return {
    ground,
    jaccard: found === null ? 0 : pageJaccard(found.quad, truth, w / h),
    jaccardSeen: found === null ? 0 : jaccardIndex(clipPolygon(found.quad, frame), clipPolygon(truth, frame)),
    confidence: found?.confidence ?? 0,
  };
}

/** Prints how many outlines are right on each ground. */
export function printGrounds(title: string, scores: readonly GroundScore[]): void {
  console.log(`\n${title}`);
  console.table(
    EACH_GROUND.map((ground) => {
      const part = scores.filter((each) => each.ground === ground);
      const wrong = part.filter(({ jaccard, confidence }) => jaccard < WRONG && confidence >= BELIEVED);
      return {
        on: ground,
        shots: part.length,
        'mean Jaccard': mean(part.map(({ jaccard }) => jaccard)).toFixed(3),
        'of what is seen': mean(part.map(({ jaccardSeen }) => jaccardSeen)).toFixed(3),
        'least tenth': quantile(
          part.map(({ jaccard }) => jaccard),
          0.1,
        ).toFixed(3),
        right: percent(mean(part.map(({ jaccard }) => (jaccard >= RIGHT ? 1 : 0)))),
        'wrong and believed': wrong.length,
      };
    }),
  );
}

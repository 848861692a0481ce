import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { PHOTO_EFFORT } from '../core/imaging/detect/detectOutline';
import { locateSheet } from '../core/imaging/detect/locateSheet';
import {
  measureCandidates,
  rankCandidates,
  type DetectEffort,
  type MeasuredQuad,
} from '../core/imaging/detect/measureCandidates';
import { readPicture, type WorkingPicture } from '../core/imaging/detect/readPicture';
import { withWorkspace, type Workspace } from '../core/imaging/kernels/workspace';
import type { ColourPicture } from '../core/imaging/detect/colourPicture';
import { confidenceOf, rankQuad } from '../core/imaging/detect/quadScorer';
import type { PageSegmentation } from '../core/imaging/detect/pageNetwork';
import { FEATURE_NAMES, SEGMENTATION_FEATURE_NAMES } from '../core/imaging/detect/quadFeatures';
import { SCORER_WEIGHTS } from '../core/imaging/detect/scorerWeights';
import { LIVE_SCORER_WEIGHTS } from '../core/imaging/live/liveWeights';
import { pageJaccard } from '../core/imaging/geometry/jaccard';
import { scaleQuad } from '../core/imaging/geometry/quad';
import { checkSeeds } from './trainingManifest';
import { weightsFile } from './weightsFile';
import { LIVE_EFFORT, readFrame } from '../core/imaging/live/findLiveOutline';
import { LIVE_LONG_SIDE_PX } from '../core/imaging/live/liveSize';
import type { PixelImage } from '../core/imaging/raster/pixelImage';
import { fitLongSide } from '../core/imaging/raster/resizeByArea';
import { createRandom } from '../demo/random';
import { decodePhoto } from '../platform/node/decodePhoto';
import { loadScoredPhotos } from './scoredPhotos';

/*
 * Trains an outline scorer on folders of simulated photos and writes its weights.
 * Usage: node dist/trainScorer.mjs photo|photoConfidence|live|liveConfidence FOLDER [FOLDER …] [--desks FOLDER]
 *        …Confidence keeps the ranker that ships, and fits its confidence to it
 *        node dist/trainScorer.mjs mean WEIGHTS.ts WEIGHTS.ts   scorers trained apart are wrong in different pictures: their
 *        mean is right in more. It is as sure as the first until `photoConfidence` is run. The shipped weights are such a mean.
 * Photos that are scored are refused (bench/train/manifest.json; write into it what was trained). Pictures under --desks show no page: they teach confidence.
 */

interface Subject {
  /** What candidates are measured in, and what the winner is refined in. */
  readonly read: (
    image: PixelImage,
    ws: Workspace,
  ) => {
    readonly working: WorkingPicture;
    readonly larger: ColourPicture;
    readonly segmentation: PageSegmentation | null;
  };
  readonly effort: DetectEffort;
  readonly passes: 1 | 2;
  /** The Jaccard index from which an outline counts as right. */
  readonly right: number;
  /** A ranker already trained; only its confidence is learnt then. */
  readonly ranker?: readonly number[];
  readonly file: string;
  readonly prefix: string;
}

const PHOTO: Subject = {
  read: readPicture,
  effort: PHOTO_EFFORT,
  passes: 2,
  right: 0.95,
  file: 'core/imaging/detect/scorerWeights.ts',
  prefix: '',
};

const LIVE: Subject = {
  read: (image, ws) => {
    const working = readFrame(fitLongSide(image, LIVE_LONG_SIDE_PX), ws);
    return { working, larger: working.fine, segmentation: null };
  },
  effort: LIVE_EFFORT,
  passes: 1,
  right: 0.9,
  file: 'core/imaging/live/liveWeights.ts',
  prefix: 'LIVE_',
};

const SUBJECTS: Readonly<Record<string, Subject>> = {
  photo: PHOTO,
  photoConfidence: { ...PHOTO, ranker: SCORER_WEIGHTS },
  live: LIVE,
  liveConfidence: { ...LIVE, ranker: LIVE_SCORER_WEIGHTS },
};

interface Example {
  /** Read again where its sides are moved: pictures end with their workspace. */
  readonly image: PixelImage;
  readonly measured: ReturnType<typeof measureCandidates>;
  /** How right each candidate is; empty where the picture has no page. */
  readonly jaccards: readonly number[];
  readonly scoreOf: (quad: MeasuredQuad['candidate']['quad'], width: number) => number;
}

function measure(
  image: PixelImage,
  { read, effort }: Subject,
): Pick<Example, 'image' | 'measured'> & { width: number } {
  return withWorkspace((ws) => {
    const { working, segmentation } = read(image, ws);
    return { image, measured: measureCandidates(working, { effort, segmentation }), width: working.raw.width };
  });
}

async function gather(subject: Subject, folders: readonly string[], desks: string | undefined): Promise<Example[]> {
  const examples: Example[] = [];
  for (const folder of folders) {
    checkSeeds(readdirSync(folder));
    for await (const { image, truth, aspect } of loadScoredPhotos(folder)) {
      const { width, ...example } = measure(image, subject);
      const scoreOf: Example['scoreOf'] = (quad, inWidth) =>
        pageJaccard(scaleQuad(quad, image.width / inWidth), truth.corners, aspect);
      examples.push({ ...example, scoreOf, jaccards: example.measured.map((m) => scoreOf(m.candidate.quad, width)) });
    }
  }
  if (desks === undefined) return examples;
  for (const file of readdirSync(desks)) {
    const image = await decodePhoto(readFileSync(path.join(desks, file)), file);
    examples.push({ ...measure(image, subject), scoreOf: () => 0, jaccards: [] });
  }
  return examples;
}

/** Hidden units of one scorer: enough for "bright inside OR coloured outside", few enough not to learn the simulator by heart. */
const HIDDEN_UNITS = 12;

/** Listwise softmax: the share of probability on each candidate should follow how right it is. */
function trainRanker(examples: readonly Example[]): number[] {
  const inputs = examples[0]!.measured[0]!.features.length;
  const size = HIDDEN_UNITS * (inputs + 2);
  const random = createRandom(4);
  const weights = Float64Array.from({ length: size }, () => random.gauss() * 0.35);
  const m = new Float64Array(size);
  const v = new Float64Array(size);
  let step = 0;
  for (let epoch = 0; epoch < 80; epoch++) {
    const rate = 0.012 * (1 - epoch / 84);
    for (let batch = 0; batch < examples.length; batch += 8) {
      const gradient = new Float64Array(size);
      for (const example of examples.slice(batch, batch + 8)) addGradient(example, weights, gradient);
      step++;
      for (let i = 0; i < size; i++) {
        const g = gradient[i]! / 8 + 4e-4 * weights[i]!;
        m[i] = 0.9 * m[i]! + 0.1 * g;
        v[i] = 0.999 * v[i]! + 0.001 * g * g;
        weights[i]! -= (rate * (m[i]! / (1 - 0.9 ** step))) / (Math.sqrt(v[i]! / (1 - 0.999 ** step)) + 1e-8);
      }
    }
  }
  return Array.from(weights);
}

function addGradient({ measured, jaccards }: Example, weights: Float64Array, gradient: Float64Array): void {
  if (jaccards.length === 0) return;
  const best = Math.max(...jaccards);
  if (best < 0.8) return;
  const inputs = measured[0]!.features.length;
  const target = softmax(jaccards.map((j) => (j - best) * 40));
  const scores = measured.map((q) => rankQuad(q.features, weights as unknown as number[]));
  const predicted = softmax(scores);
  measured.forEach((q, k) => {
    const error = predicted[k]! - target[k]!;
    if (Math.abs(error) < 1e-5) return;
    for (let unit = 0; unit < HIDDEN_UNITS; unit++) {
      const at = unit * (inputs + 1);
      let sum = weights[at + inputs]!;
      for (let i = 0; i < inputs; i++) sum += weights[at + i]! * q.features[i]!;
      const h = Math.tanh(sum);
      const out = HIDDEN_UNITS * (inputs + 1) + unit;
      gradient[out]! += error * h;
      const back = error * weights[out]! * (1 - h * h);
      for (let i = 0; i < inputs; i++) gradient[at + i]! += back * q.features[i]!;
      gradient[at + inputs]! += back;
    }
  });
}

function softmax(values: readonly number[]): number[] {
  const top = Math.max(...values);
  const e = values.map((x) => Math.exp(x - top));
  const sum = e.reduce((a, b) => a + b, 0);
  return e.map((x) => x / sum);
}

/** Steps of plain gradient descent: after 6,000 the confidence was still too low where it is high. */
const CONFIDENCE_STEPS = 60_000;

/** How hard its weights are pulled towards nothing: three times as hard, and what is nearly always right is said to be so 98 times in 100; a third as hard, and one wrong outline more is thrown away. */
const CONFIDENCE_PULL = 0.0006;

/** Logistic regression of "Jaccard index at least 0.95" on the winner's evidence. */
function trainConfidence(rows: readonly { x: readonly number[]; right: boolean }[]): number[] {
  const weights = rows[0]!.x.map(() => 0);
  for (let iteration = 0; iteration < CONFIDENCE_STEPS; iteration++) {
    const gradient = weights.map((w) => CONFIDENCE_PULL * w);
    for (const { x, right } of rows) {
      const error = (confidenceOf(x, weights) - (right ? 1 : 0)) / rows.length;
      x.forEach((f, i) => (gradient[i]! += error * f));
    }
    gradient.forEach((g, i) => (weights[i]! -= 0.6 * g));
  }
  return weights;
}

/** Writes a subject's weights; where its ranker was not trained, it keeps the one it has. */
function write(
  { file, prefix, ranker: kept }: Subject,
  ranker: readonly number[] | null,
  confidence: readonly number[],
): void {
  writeFileSync(file, weightsFile(prefix, ranker ?? kept ?? null, confidence));
}

/** Two scorers side by side, with all their hidden units, as the mean of both. */
function meanOf(weights: readonly (readonly number[])[], inputs: number): number[] {
  const outputsOf = (each: readonly number[]): number => (each.length / (inputs + 2)) * (inputs + 1);
  return [
    ...weights.flatMap((each) => each.slice(0, outputsOf(each))),
    ...weights.flatMap((each) => each.slice(outputsOf(each)).map((w) => w / weights.length)),
  ];
}

const args = process.argv.slice(2);
if (args[0] === 'mean') {
  const files = args.slice(1).map((file) => readFileSync(file, 'utf8'));
  const read = (text: string, name: string): readonly number[] =>
    JSON.parse(new RegExp(`${name}: readonly number\\[\\] = (\\[.*\\])`).exec(text)![1]!) as number[];
  const members = files.map((text) => read(text, 'SCORER_WEIGHTS'));
  write(
    SUBJECTS.photo!,
    meanOf(members, FEATURE_NAMES.length + SEGMENTATION_FEATURE_NAMES.length),
    read(files[0]!, 'CONFIDENCE_WEIGHTS'),
  );
  process.exit(0);
}
const subject = SUBJECTS[args[0] ?? ''];
if (subject === undefined)
  throw new Error('usage: trainScorer photo|photoConfidence|live|liveConfidence FOLDER … [--desks FOLDER]');
const at = args.indexOf('--desks');
const examples = await gather(subject, args.slice(1, at < 0 ? undefined : at), at < 0 ? undefined : args[at + 1]);
console.log(`${examples.length} pictures measured`);
// the confidence is learnt on rankings that had not seen the picture (two halves), the shipped ranker on everything
const halves = [examples.filter((_, i) => i % 2 === 0), examples.filter((_, i) => i % 2 === 1)] as const;
const rows = halves.flatMap((half, h) => {
  const weights = subject.ranker ?? trainRanker(halves[1 - h]!);
  return half.flatMap(({ image, measured, jaccards, scoreOf }) => {
    const { found, width } = withWorkspace((ws) => {
      const { larger, working, segmentation } = subject.read(image, ws);
      const ranked = rankCandidates(measured, weights);
      return {
        found: locateSheet(ranked, {
          picture: larger,
          factor: larger.width / working.raw.width,
          passes: subject.passes,
          segmentation,
        }),
        width: larger.width,
      };
    });
    if (found === null) return [];
    const jaccard = scoreOf(found.quad, width);
    return [{ x: found.confidenceFeatures, right: jaccard >= subject.right, jaccard, page: jaccards.length > 0 }];
  });
});
const pages = rows.filter((r) => r.page);
console.log(
  `held out: mean Jaccard ${(pages.reduce((s, r) => s + r.jaccard, 0) / pages.length).toFixed(4)}, at ${subject.right} or more ${(pages.filter((r) => r.right).length / pages.length).toFixed(3)}`,
);
write(subject, subject.ranker === undefined ? trainRanker(examples) : null, trainConfidence(rows));

import { writeFileSync } from 'node:fs';
import { measureCandidates, locateSheet, PROPOSAL_LONG_SIDE_PX, REFINE_LONG_SIDE_PX, type MeasuredQuad } from '../core/detect/detectOutline';
import { FEATURE_NAMES } from '../core/detect/quadFeatures';
import { confidenceOf, HIDDEN_UNITS, rankQuad } from '../core/detect/quadScorer';
import { pageJaccard } from '../core/geometry/jaccard';
import { scaleQuad } from '../core/geometry/quad';
import { fitLongSide } from '../core/raster/resizeByArea';
import { createRandom } from '../demo/random';
import { loadScoredPhotos, type ScoredPhoto } from './scoredPhotos';

/*
 * Trains the outline scorer on folders of simulated photos and writes core/detect/scorerWeights.ts.
 * Usage: node dist/trainScorer.mjs FOLDER [FOLDER …]. Seeds of the training folders must differ from the bench's.
 */

interface Example {
  readonly photo: ScoredPhoto;
  readonly measured: readonly MeasuredQuad[];
  readonly jaccards: readonly number[];
}

const INPUTS = FEATURE_NAMES.length;
const SIZE = HIDDEN_UNITS * (INPUTS + 1) + HIDDEN_UNITS;

async function gather(folders: readonly string[]): Promise<Example[]> {
  const examples: Example[] = [];
  for (const folder of folders) {
    for await (const photo of loadScoredPhotos(folder)) {
      const larger = fitLongSide(photo.image, REFINE_LONG_SIDE_PX);
      const working = fitLongSide(larger, PROPOSAL_LONG_SIDE_PX);
      const measured = measureCandidates(working);
      const toPhoto = photo.image.width / working.width;
      const jaccards = measured.map((m) => pageJaccard(scaleQuad(m.candidate.quad, toPhoto), photo.truth.corners, photo.aspect));
      examples.push({ photo: { ...photo, image: larger }, measured, jaccards });
    }
  }
  return examples;
}

/** Listwise softmax: the share of probability on each candidate should follow how right it is. */
function trainRanker(examples: readonly Example[]): number[] {
  const random = createRandom(4);
  const weights = Float64Array.from({ length: SIZE }, () => random.gauss() * 0.35);
  const m = new Float64Array(SIZE);
  const v = new Float64Array(SIZE);
  let step = 0;
  for (let epoch = 0; epoch < 80; epoch++) {
    const rate = 0.012 * (1 - epoch / 84);
    for (let batch = 0; batch < examples.length; batch += 8) {
      const gradient = new Float64Array(SIZE);
      for (const example of examples.slice(batch, batch + 8)) addGradient(example, weights, gradient);
      step++;
      for (let i = 0; i < SIZE; i++) {
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
  const best = Math.max(...jaccards);
  if (best < 0.8) return;
  const target = softmax(jaccards.map((j) => (j - best) * 40));
  const scores = measured.map((q) => rankQuad(q.features, weights as unknown as number[]));
  const predicted = softmax(scores);
  measured.forEach((q, k) => {
    const error = predicted[k]! - target[k]!;
    if (Math.abs(error) < 1e-5) return;
    for (let unit = 0; unit < HIDDEN_UNITS; unit++) {
      const at = unit * (INPUTS + 1);
      let sum = weights[at + INPUTS]!;
      for (let i = 0; i < INPUTS; i++) sum += weights[at + i]! * q.features[i]!;
      const h = Math.tanh(sum);
      const out = HIDDEN_UNITS * (INPUTS + 1) + unit;
      gradient[out]! += error * h;
      const back = error * weights[out]! * (1 - h * h);
      for (let i = 0; i < INPUTS; i++) gradient[at + i]! += back * q.features[i]!;
      gradient[at + INPUTS]! += back;
    }
  });
}

function softmax(values: readonly number[]): number[] {
  const top = Math.max(...values);
  const e = values.map((x) => Math.exp(x - top));
  const sum = e.reduce((a, b) => a + b, 0);
  return e.map((x) => x / sum);
}

/** Logistic regression of "Jaccard index at least 0.95" on the winner's evidence. */
function trainConfidence(rows: readonly { x: readonly number[]; right: boolean }[]): number[] {
  const weights = rows[0]!.x.map(() => 0);
  for (let iteration = 0; iteration < 6000; iteration++) {
    const gradient = weights.map((w) => 0.002 * w);
    for (const { x, right } of rows) {
      const error = (confidenceOf(x, weights) - (right ? 1 : 0)) / rows.length;
      x.forEach((f, i) => (gradient[i]! += error * f));
    }
    gradient.forEach((g, i) => (weights[i]! -= 0.6 * g));
  }
  return weights;
}

const examples = await gather(process.argv.slice(2));
console.log(`${examples.length} photos measured`);
// the confidence is learnt on rankings that had not seen the photo (two halves), the shipped ranker on everything
const halves = [examples.filter((_, i) => i % 2 === 0), examples.filter((_, i) => i % 2 === 1)] as const;
const rows = halves.flatMap((half, h) => {
  const weights = trainRanker(halves[1 - h]!);
  return half.flatMap(({ photo, measured }) => {
    const ranked = measured.map((q) => ({ ...q, score: rankQuad(q.features, weights) })).sort((p, q) => q.score - p.score);
    const toLarger = photo.image.width / fitLongSide(photo.image, PROPOSAL_LONG_SIDE_PX).width;
    const found = locateSheet(photo.image, ranked, toLarger);
    if (found === null) return [];
    const jaccard = pageJaccard(scaleQuad(found.quad, photo.truth.width / photo.image.width), photo.truth.corners, photo.aspect);
    return [{ x: found.confidenceFeatures, right: jaccard >= 0.95, jaccard }];
  });
});
console.log(`held out: mean Jaccard ${(rows.reduce((s, r) => s + r.jaccard, 0) / rows.length).toFixed(4)}, at 0.95 or more ${(rows.filter((r) => r.right).length / rows.length).toFixed(3)}`);
const shipped = trainRanker(examples);
const confidence = trainConfidence(rows);
const list = (values: readonly number[]): string => `[${values.map((x) => Number(x.toFixed(4))).join(', ')}]`;
writeFileSync(
  'core/detect/scorerWeights.ts',
  `// Written by bench/trainScorer.ts; do not edit by hand.\nexport const SCORER_WEIGHTS: readonly number[] = ${list(shipped)};\nexport const CONFIDENCE_WEIGHTS: readonly number[] = ${list(confidence)};\n`,
);

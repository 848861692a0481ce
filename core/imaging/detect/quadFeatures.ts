import { recoverProportions } from '../geometry/aspectRatio';
import { lerpPoint } from '../geometry/point';
import { STANDARD_SHEETS } from '../geometry/standardSheets';
import { placeOnQuad, polygonArea, type Quad } from '../geometry/quad';
import { CHANNELS, type ColourPicture } from './colourPicture';
import { meanOver, type LineEvidence } from './lineEvidence';
import { pageAt, type PageMap } from './pageNetwork';
import { positionOn, type QuadCandidate } from './quadCandidates';

/** What the scorer is told about a candidate, in this order; each roughly within -1 to 1. */
export const FEATURE_NAMES = [
  'stepMean',
  'stepLeast',
  'stepSecondLeast',
  'brighterMean',
  'brighterLeast',
  'contrastMean',
  'contrastLeast',
  'insideSpread',
  'insideLightness',
  'insideColour',
  'paperEvenness',
  'overrunMean',
  'overrunMost',
  'areaShare',
  'aspectMiss',
  'cornerSkew',
  'borderSides',
  'unseen',
  'interiorStep',
  'stretchLeast',
  'stretchThirdLeast',
  'stretchSixthLeast',
  'rimDiffers',
  'innerEdges',
  'innerEdgeMost',
] as const;

/** What the network adds where it was asked: overlap with its page, its edge along the sides. */
export const MAP_FEATURE_NAMES = ['pageOverlap', 'pageInside', 'pageEdgeMean', 'pageEdgeLeast'] as const;

/** Each side is also judged piece by piece: a true edge may miss a piece under a thumb, a chance line misses several. */
const STRETCHES = 5;

/** Logarithms of the usual sheets' long side over their short side. */
const USUAL_RATIOS = Object.values(STANDARD_SHEETS).map(Math.log);

/**
 * Measures a candidate: how its sides look, how the strips inside and outside differ, whether edges run on past its
 * corners (a pattern's or a table's do, a sheet's do not), whether it is lit like paper, and whether its proportions are
 * a page's.
 * @param lines - all lines believed in, for what runs through the candidate's inside
 * @param picture - the lightly blurred working picture
 * @param map - what the network says, or null where it was not asked
 * @returns FEATURE_NAMES.length numbers, and MAP_FEATURE_NAMES.length more where there is a map
 */
export function measureQuad(
  candidate: QuadCandidate,
  lines: readonly LineEvidence[],
  picture: ColourPicture,
  pictureLightness: { p50: number; p90: number },
  map: PageMap | null,
): Float64Array {
  const { quad, sides } = candidate;
  const { width, height } = picture;
  const steps: number[] = [];
  const brighter: number[] = [];
  const contrasts: number[] = [];
  const inside: { l: number; a: number; b: number }[] = [];
  const overruns: number[] = [];
  const stretches: number[] = [];
  let borders = 0;
  let unseen = 0;
  const centre = { x: quad.reduce((s, p) => s + p.x, 0) / 4, y: quad.reduce((s, p) => s + p.y, 0) / 4 };
  const perimeter = quad.reduce((s, p, i) => s + Math.hypot(p.x - quad[(i + 1) % 4]!.x, p.y - quad[(i + 1) % 4]!.y), 0);
  for (let s = 0; s < 4; s++) {
    const side = sides[s]!;
    const a = quad[s]!;
    const b = quad[(s + 1) % 4]!;
    const from = positionOn(side, a);
    const to = positionOn(side, b);
    const length = Math.abs(to - from);
    const inFrame = Math.max(
      0,
      Math.min(Math.max(from, to), side.start + side.length) - Math.max(Math.min(from, to), side.start),
    );
    unseen += (length - inFrame) / perimeter;
    if (side.line.border) {
      borders++;
      continue;
    }
    const mean = (sums: Float32Array): number => meanOver(side, sums, from, to) ?? 0;
    const plusInside = centre.x * side.line.nx + centre.y * side.line.ny > side.line.rho;
    const inL = mean(plusInside ? side.plusL : side.minusL);
    const outL = mean(plusInside ? side.minusL : side.plusL);
    const inA = mean(plusInside ? side.plusA : side.minusA);
    const outA = mean(plusInside ? side.minusA : side.plusA);
    const inB = mean(plusInside ? side.plusB : side.minusB);
    const outB = mean(plusInside ? side.minusB : side.plusB);
    steps.push(mean(side.step));
    for (let k = 0; k < STRETCHES; k++) {
      const seen = meanOver(
        side,
        side.step,
        from + ((to - from) * k) / STRETCHES,
        from + ((to - from) * (k + 1)) / STRETCHES,
      );
      if (seen !== null) stretches.push(seen);
    }
    const difference = inL - outL;
    brighter.push(difference / (Math.abs(difference) + 15));
    const contrast = Math.hypot(difference, inA - outA, inB - outB);
    contrasts.push(contrast / (contrast + 15));
    inside.push({ l: inL, a: inA, b: inB });
    overruns.push(...overrunOf(side, from, to));
  }
  stretches.sort((p, q) => p - q);
  const sorted = [...steps].sort((p, q) => p - q);
  const average = (values: readonly number[]): number =>
    values.length === 0 ? 0 : values.reduce((p, q) => p + q, 0) / values.length;
  const least = (values: readonly number[]): number => (values.length === 0 ? 0 : Math.min(...values));
  const meanIn = {
    l: average(inside.map((p) => p.l)),
    a: average(inside.map((p) => p.a)),
    b: average(inside.map((p) => p.b)),
  };
  const spread = average(inside.map((p) => Math.hypot((p.l - meanIn.l) * 0.5, p.a - meanIn.a, p.b - meanIn.b)));
  const interior = sampleInterior(candidate, picture);
  const [innerEdges, innerEdgeMost] = innerEdgesOf(candidate, lines);
  const features: Record<(typeof FEATURE_NAMES)[number], number> = {
    stepMean: average(steps),
    stepLeast: sorted[0] ?? 0,
    stepSecondLeast: sorted[1] ?? 0,
    brighterMean: average(brighter),
    brighterLeast: least(brighter),
    contrastMean: average(contrasts),
    contrastLeast: least(contrasts),
    insideSpread: spread / (spread + 20),
    insideLightness: (interior.l - pictureLightness.p50) / (Math.abs(pictureLightness.p90 - pictureLightness.p50) + 25),
    insideColour: interior.colour / (interior.colour + 25),
    paperEvenness: interior.evenness,
    overrunMean: average(overruns),
    overrunMost: overruns.length === 0 ? 0 : Math.max(...overruns),
    areaShare: Math.sqrt(polygonArea(quad) / (width * height)),
    aspectMiss: aspectMiss(candidate, width, height),
    cornerSkew: cornerSkew(candidate),
    borderSides: borders / 4,
    unseen,
    interiorStep: interior.step,
    stretchLeast: stretches[0] ?? 0,
    stretchThirdLeast: stretches[2] ?? 0,
    stretchSixthLeast: stretches[5] ?? 0,
    rimDiffers: Math.min(1, Math.abs(meanIn.l - interior.l) / 40),
    innerEdges,
    innerEdgeMost,
  };
  return encodeFeatures(features, map === null ? null : agreementWith(map, candidate, width, height));
}

/** The features in the order that the scorer's weights were trained in. */
const encodeFeatures = (
  features: Readonly<Record<(typeof FEATURE_NAMES)[number], number>>,
  mapFeatures: Readonly<Record<(typeof MAP_FEATURE_NAMES)[number], number>> | null,
): Float64Array =>
  Float64Array.from([
    ...FEATURE_NAMES.map((name) => features[name]),
    ...(mapFeatures === null ? [] : MAP_FEATURE_NAMES.map((name) => mapFeatures[name])),
  ]);

/** One of measureQuad's features, by its name; 0 where the network was not asked for it. */
export function featureOf(
  features: Float64Array,
  name: (typeof FEATURE_NAMES)[number] | (typeof MAP_FEATURE_NAMES)[number],
): number {
  const at = (FEATURE_NAMES as readonly string[]).indexOf(name);
  return features[at >= 0 ? at : FEATURE_NAMES.length + (MAP_FEATURE_NAMES as readonly string[]).indexOf(name)] ?? 0;
}

/** How much step edge is still seen on the line just beyond both corners, 0 to 1 each. */
function overrunOf(side: LineEvidence, from: number, to: number): number[] {
  const low = Math.min(from, to);
  const high = Math.max(from, to);
  const reach = Math.max(14, 0.12 * (high - low));
  return [
    meanOver(side, side.step, low - 5 - reach, low - 5),
    meanOver(side, side.step, high + 5, high + 5 + reach),
  ].filter((v) => v !== null);
}

/**
 * How much step edge runs through the inside: where a candidate straddles two sheets, a true edge crosses it.
 */
function innerEdgesOf({ quad, sides }: QuadCandidate, lines: readonly LineEvidence[]): [number, number] {
  const size = Math.sqrt(polygonArea(quad));
  let sum = 0;
  let most = 0;
  for (const other of lines) {
    if (other.line.border || sides.includes(other)) continue;
    const chord = chordInside(other, quad, 0.05 * size);
    if (chord === null) continue;
    const seen = ((meanOver(other, other.step, chord[0], chord[1]) ?? 0) * (chord[1] - chord[0])) / size;
    sum += seen;
    most = Math.max(most, seen);
  }
  return [sum / (sum + 2), most];
}

/** The positions between which a line lies inside the quadrilateral, at least `margin` px from its sides. */
function chordInside({ line, start, length }: LineEvidence, quad: Quad, margin: number): [number, number] | null {
  let low = start;
  let high = start + length;
  for (let s = 0; s < 4; s++) {
    const a = quad[s]!;
    const b = quad[(s + 1) % 4]!;
    const side = Math.hypot(b.x - a.x, b.y - a.y) || 1;
    const nx = -(b.y - a.y) / side;
    const ny = (b.x - a.x) / side;
    // depth below the side at position t along the line: depth0 + t * slope
    const depth0 = (line.rho * line.nx - a.x) * nx + (line.rho * line.ny - a.y) * ny - margin;
    const slope = -line.ny * nx + line.nx * ny;
    if (Math.abs(slope) < 1e-9) {
      if (depth0 < 0) return null;
    } else if (slope > 0) low = Math.max(low, -depth0 / slope);
    else high = Math.min(high, -depth0 / slope);
  }
  return high - low > 4 ? [low, high] : null;
}

const MAP_LOOKS = 14;

/** How well the candidate covers the network's page, and how much of its sides the network takes for the page's edge. */
function agreementWith(
  map: PageMap,
  { quad, sides }: QuadCandidate,
  width: number,
  height: number,
): Record<(typeof MAP_FEATURE_NAMES)[number], number> {
  let seen = 0;
  let page = 0;
  for (let j = 0; j < MAP_LOOKS; j++) {
    for (let i = 0; i < MAP_LOOKS; i++) {
      const place = placeOnQuad(quad, (i + 0.5) / MAP_LOOKS, (j + 0.5) / MAP_LOOKS);
      const share = pageAt(map, place.x, place.y, width, height);
      if (share === null) continue;
      seen++;
      page += share;
    }
  }
  const inside = seen === 0 ? 0 : page / seen;
  // areas in map pixels; only what lies in the picture counts
  const area = (polygonArea(quad) * (seen / MAP_LOOKS ** 2) * map.width * map.height) / (width * height);
  const common = inside * area;
  const overlap = common / Math.max(1, area + map.pageArea - common);
  const edges: number[] = [];
  for (let s = 0; s < 4; s++) {
    const side = sides[s]!;
    if (side.line.border) continue;
    const seen =
      side.mapped === null
        ? null
        : meanOver(side, side.mapped, positionOn(side, quad[s]!), positionOn(side, quad[(s + 1) % 4]!));
    if (seen !== null) edges.push(seen);
  }
  return {
    pageOverlap: overlap,
    pageInside: inside,
    pageEdgeMean: edges.length === 0 ? 0 : edges.reduce((p, q) => p + q, 0) / edges.length,
    pageEdgeLeast: edges.length === 0 ? 0 : Math.min(...edges),
  };
}

/** Distance of the recovered proportions from the usual sheets', as a logarithm cut off at 0.5. */
function aspectMiss({ quad }: QuadCandidate, width: number, height: number): number {
  const { aspect } = recoverProportions(quad, width, height);
  const ratio = Math.abs(Math.log(aspect));
  return Math.min(0.5, ...USUAL_RATIOS.map((standard) => Math.abs(ratio - standard)));
}

/** Mean distance of the corner angles from a right angle, as a share of a right angle. */
function cornerSkew({ quad }: QuadCandidate): number {
  let sum = 0;
  for (let i = 0; i < 4; i++) {
    const p = quad[i]!;
    const q = quad[(i + 1) % 4]!;
    const r = quad[(i + 3) % 4]!;
    const angle = Math.acos(
      ((q.x - p.x) * (r.x - p.x) + (q.y - p.y) * (r.y - p.y)) /
        (Math.hypot(q.x - p.x, q.y - p.y) * Math.hypot(r.x - p.x, r.y - p.y)),
    );
    sum += Math.abs(angle - Math.PI / 2) / (Math.PI / 2);
  }
  return sum / 4;
}

const INTERIOR_LOOKS = 10;

interface PaperInside {
  readonly l: number;
  readonly colour: number;
  readonly evenness: number;
  readonly step: number;
}

/** Lightness, colour and evenness of the paper between the ink, from a grid of points well inside. */
function sampleInterior({ quad }: QuadCandidate, picture: ColourPicture): PaperInside {
  const { width, height, samples } = picture;
  const places = new Int32Array(INTERIOR_LOOKS * INTERIOR_LOOKS);
  let count = 0;
  for (let j = 0; j < INTERIOR_LOOKS; j++) {
    const down = (j + 0.5) / INTERIOR_LOOKS;
    const left = lerpPoint(quad[0], quad[3], down);
    const right = lerpPoint(quad[1], quad[2], down);
    for (let i = 0; i < INTERIOR_LOOKS; i++) {
      const across = (i + 0.5) / INTERIOR_LOOKS;
      const x = left.x + (right.x - left.x) * across;
      const y = left.y + (right.y - left.y) * across;
      if (x >= 0 && y >= 0 && x < width && y < height)
        places[count++] = CHANNELS * (Math.floor(y) * width + Math.floor(x));
    }
  }
  if (count < 10) return { l: 0, colour: 0, evenness: 0, step: 0 };
  return samples.view((values) => paperAt(values, places.subarray(0, count)));
}

/** What the paper is like at some places of a picture. */
function paperAt(values: Float32Array, places: Int32Array): PaperInside {
  const count = places.length;
  const levels = new Float32Array(count);
  for (let k = 0; k < count; k++) levels[k] = values[places[k]!]!;
  const median = levels.sort()[count >> 1]!;
  // the paper is the brighter half: ink is darker
  let bright = 0;
  let meanA = 0;
  let meanB = 0;
  for (let k = 0; k < count; k++) {
    const at = places[k]!;
    if (values[at]! < median) continue;
    bright++;
    meanA += values[at + 1]!;
    meanB += values[at + 2]!;
  }
  meanA /= bright;
  meanB /= bright;
  let wobble = 0;
  let like = 0;
  for (let k = 0; k < count; k++) {
    const at = places[k]!;
    const off = Math.sqrt((values[at + 1]! - meanA) ** 2 + (values[at + 2]! - meanB) ** 2);
    if (values[at]! >= median) wobble += off / bright;
    if (Math.abs(values[at]! - median) < 0.12 * median && off < 12) like++;
  }
  return {
    l: median,
    colour: Math.sqrt(meanA * meanA + meanB * meanB),
    evenness: like / count,
    step: wobble / (wobble + 8),
  };
}

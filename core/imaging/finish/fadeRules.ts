import { extremeFilter } from '../raster/morphology';
import { boxBlur } from '../raster/boxBlur';

/*
 * Printed rules: thin, faint, straight along rows or columns for longer than any stroke of writing. An opening with a
 * long thin line keeps only them, a little thickened across first so that a rule that is not quite level is still one;
 * what it keeps is taken away wherever it is no darker than a rule is.
 */

/** Length of the line of the opening, as a share of the page's long side: 14 mm of A4. */
const RULE_LENGTH = 0.048;
/** No rule is darker than this, on the scale of a byte: a thin printed line of a table is, and stays. */
const DARKEST_RULE = 34;
/** Nor fainter than this: that is grain. */
const FAINTEST_RULE = 2;
/** Half of what a rule is narrower than, as a share of the long side: 0.9 mm of A4 in all. */
const RULE_BREADTH = 0.0015;
/** What is left after the small square may be this share of the rule: more is broader than a rule. */
const BROAD_SHARE = 0.8;
/** What stays of a rule: so little that no finish shows it. */
const KEPT = 0.12;
/** How much darker than the line that was followed, which is its palest stretch, a rule may be in places: by this factor, */
const RULE_SHARE = 1.35;
/** and by so many levels more. */
const RULE_MORE = 4;
/** Rules are looked for on a copy about this long. */
const LOOK_LONG_SIDE_PX = 1300;

/**
 * Takes ruled lines and squares out of a plane of ink depth.
 * @param depth - width × height bytes, 0 for paper; left as it is
 */
export function fadeRuledLines(
  depth: Uint8ClampedArray<ArrayBuffer>,
  width: number,
  height: number,
): Uint8ClampedArray<ArrayBuffer> {
  const step = Math.max(1, Math.round(Math.max(width, height) / LOOK_LONG_SIDE_PX));
  const w = Math.ceil(width / step);
  const h = Math.ceil(height / step);
  const plane = meansOfBlocks(depth, width, step, w, h);
  const half = Math.max(4, Math.round((RULE_LENGTH / 2) * Math.max(w, h)));
  const breadth = Math.max(1, Math.round(RULE_BREADTH * Math.max(w, h)));
  // what outlasts an opening with a small square is broader than a rule; where two rules cross it is not
  const broad = extremeFilter(
    plane,
    w,
    h,
    { extreme: 'smallest', radius: breadth },
    { extreme: 'largest', radius: breadth },
  );
  const [level, upright] = (['rows', 'columns'] as const).map((along) => {
    // grain would break the line: along it, means are as good
    const calm = boxBlur(plane, w, h, { radius: Math.max(1, half >> 3), along });
    return extremeFilter(
      calm,
      w,
      h,
      { extreme: 'largest', radius: 1, along: along === 'rows' ? 'columns' : 'rows' },
      { extreme: 'smallest', radius: half, along },
      { extreme: 'largest', radius: half, along },
    );
  }) as [Float32Array, Float32Array];
  const rules = new Float32Array(plane.length);
  for (let i = 0; i < plane.length; i++) {
    // where rules cross, both darken the paper
    const rule = ruleIn(level[i]!) + ruleIn(upright[i]!);
    if (broad[i]! <= BROAD_SHARE * rule) rules[i] = rule;
  }
  const out = depth.slice();
  for (let y = 0, i = 0; y < height; y++) {
    const row = Math.floor(y / step) * w;
    for (let x = 0; x < width; x++, i++) {
      const at = row + Math.floor(x / step);
      // ink that crosses a rule is much darker than it and stays
      if (rules[at]! > 0 && plane[at]! <= rules[at]! * RULE_SHARE + RULE_MORE) out[i] = out[i]! * KEPT;
    }
  }
  return out;
}

/** A line's depth where it can be a rule's, else 0. */
const ruleIn = (depth: number): number => (depth >= FAINTEST_RULE && depth <= DARKEST_RULE ? depth : 0);

/** Means of blocks of step × step pixels: w × h of them. */
function meansOfBlocks(depth: Uint8ClampedArray, width: number, step: number, w: number, h: number): Float32Array {
  const sums = new Float32Array(w * h);
  for (let y = 0, i = 0; i < depth.length; y++) {
    const row = Math.floor(y / step) * w;
    for (let x = 0; x < width; x++, i++) sums[row + Math.floor(x / step)]! += depth[i]!;
  }
  for (let i = 0; i < sums.length; i++) sums[i]! /= step * step;
  return sums;
}

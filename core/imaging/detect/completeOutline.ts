import { recoverProportions, TYPICAL_FOCAL_RATIO } from '../geometry/aspectRatio';
import { distance, type Point } from '../geometry/point';
import { isConvexQuad, mapQuad, type Quad } from '../geometry/quad';
import { STANDARD_SHEETS } from '../geometry/standardSheets';

type Triple = readonly [number, number, number];

const crossTriple = (a: Triple, b: Triple): Triple => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];
const homogeneous = ({ x, y }: Point): Triple => [x, y, 1];
const toPoint = ([x, y, w]: Triple): Point => ({ x: x / w, y: y / w });

/** A page that hangs further out of the picture than this share of what is seen, in the picture or on the paper, is not guessed at. */
const MOST_HIDDEN = 0.5;
/** What is seen of a page that is within this share of a sheet's proportions is all of it, or nearly. */
const ALL_SEEN = 0.03;

/**
 * Puts the hidden side of a page that runs out of the picture on one side where it must be, if the sheet is a standard one.
 * Method: the two sides that run out meet in a vanishing point; for the usual focal length the direction at right angles
 * to it, along the visible opposite side, has its vanishing point too (Hartley & Zisserman, 2nd ed., section 8.6), and the
 * hidden side passes through that. It is slid outwards until the recovered proportions are those of an A sheet.
 * Limits: assumes an A sheet (a Letter page comes out 9 % too long), and a picture that was not cropped. Where the hidden side is seen
 * nearly along it the slide runs away: then there is none.
 * @param quad - the visible part, whose side `hidden` lies on the picture's border; px
 * @param hidden - index of that side: 0 top, 1 right, 2 bottom, 3 left
 * @returns the whole page's outline, or null where no standard sheet fits
 */
export function completeOutline(quad: Quad, hidden: number, width: number, height: number): Quad | null {
  const centred = mapQuad(quad, (p) => ({ x: p.x - width / 2, y: p.y - height / 2 }));
  const at = (k: number): Point => centred[(hidden + k) % 4]!;
  const near = [at(3), at(2)] as const; // corners of the visible opposite side
  const cut = [at(0), at(1)] as const; // where the page leaves the picture
  const laterals = [
    crossTriple(homogeneous(near[0]), homogeneous(cut[0])),
    crossTriple(homogeneous(near[1]), homogeneous(cut[1])),
  ] as const;
  const vanishing = crossTriple(laterals[0], laterals[1]);
  const f = TYPICAL_FOCAL_RATIO * Math.max(width, height);
  const rightAngles: Triple = [vanishing[0], vanishing[1], vanishing[2] * f * f];
  const opposite = crossTriple(homogeneous(near[0]), homogeneous(near[1]));
  const across = crossTriple(opposite, rightAngles);

  const slideTo = (t: number): Quad | null => {
    const p: Point = { x: cut[0].x + t * (cut[0].x - near[0].x), y: cut[0].y + t * (cut[0].y - near[0].y) };
    const q = toPoint(crossTriple(crossTriple(homogeneous(p), across), laterals[1]));
    const corners = [0, 0, 0, 0].map((_, k) => (k === hidden ? p : k === (hidden + 1) % 4 ? q : centred[k]!));
    const moved = mapQuad(corners as unknown as Quad, (c) => ({ x: c.x + width / 2, y: c.y + height / 2 }));
    return moved.every((c) => Number.isFinite(c.x) && Number.isFinite(c.y)) && isConvexQuad(moved) ? moved : null;
  };
  /** Length along the sides that run out over length along the visible side. */
  const ratioOf = (candidate: Quad): number => {
    const { aspect } = recoverProportions(candidate, width, height);
    return hidden % 2 === 0 ? 1 / aspect : aspect;
  };
  const start = slideTo(0);
  const end = slideTo(MOST_HIDDEN);
  if (start === null || end === null) return null;
  const seen = ratioOf(start);
  const ratios = [1 / STANDARD_SHEETS.a, STANDARD_SHEETS.a];
  if (ratios.some((ratio) => Math.abs(seen / ratio - 1) < ALL_SEEN)) return null;
  const most = Math.min(ratioOf(end), seen * (1 + MOST_HIDDEN));
  const target = ratios.find((ratio) => ratio > seen && ratio < most);
  if (target === undefined) return null;
  let low = 0;
  let high = MOST_HIDDEN;
  for (let i = 0; i < 24; i++) {
    const middle = (low + high) / 2;
    const candidate = slideTo(middle);
    if (candidate === null || ratioOf(candidate) > target) high = middle;
    else low = middle;
  }
  const whole = slideTo(low);
  // a hidden side that is seen nearly along it would be anywhere
  const other = whole?.[(hidden + 1) % 4];
  const seenFar = quad[(hidden + 2) % 4]!;
  const seenCut = quad[(hidden + 1) % 4]!;
  return other !== undefined && distance(other, seenFar) <= (1 + MOST_HIDDEN) * distance(seenCut, seenFar)
    ? whole
    : null;
}

import { distance, scalePoint, type Point } from '../geometry/point';
import { placeOnQuad, scaleQuad, type Quad } from '../geometry/quad';
import type { PixelImage } from '../raster/pixelImage';
import { fitLongSide } from '../raster/resizeByArea';
import { measureEdgeWidth } from './edgeWidth';
import type { MotionBlur } from '../motion-blur/motionBlur';
import { findGlare } from './glare';
import { findMissingPart, type MissingPart } from './missingPart';
import { SHOT_FINDINGS, type ShotFinding } from './shotFindings';
import { findThumbs } from './thumb';
import { measurePixelNoise } from './pixelNoise';
import { quantile } from '../raster/quantile';

/** What was measured on a shot, and what follows from it. */
export interface ShotVerdict {
  readonly findings: readonly ShotFinding[];
  /** Its file breaks off. */
  readonly missing: MissingPart | null;
  /** Width of the sharpest edges in mm on the paper, or null where there is too little ink to tell. */
  readonly edgeWidthMm: number | null;
  /** The hand moved while the shutter was open. */
  readonly slipped: boolean;
  /** Photo pixels an inch of paper. */
  readonly effectiveDpi: number;
  /** Middle of a reflection in photo pixels, or null. */
  readonly glareAt: Point | null;
  /** Sides of the outline that lie on or beyond the photo's border: top, right, bottom, left. */
  readonly cutSides: readonly boolean[];
  readonly thumbSides: readonly boolean[];
  /** Lightness of the page's paper, 0 to 255. */
  readonly paperLightness: number;
  /** Standard deviation of single pixels of it, levels. */
  readonly pixelNoise: number;
}

/** What a shot must reach. */
export const SHOT_LIMITS = {
  /**
   * Handwriting's strokes are half a millimetre; edges nearly as wide run into each other. Set on 72 simulated photos: of 14 that are
   * blurred by a quarter of one or more, or moved, 12 are found, 3 of them by how they moved; of the sharper ones only such as are
   * blurred by a fifth are called so.
   */
  edgeWidthMm: 0.44,
  /** And so many px: 1.2 is as sharp as a camera gets, and where that is much on the paper, too few pixels are to blame. */
  edgeWidthPx: 1.7,
  /** Below this small print breaks up. */
  effectiveDpi: 90,
  /** A phone exposes paper to 200 and more while there is light. */
  paperLightness: 140,
  /** Where it had to amplify what light there was, pixels scatter: 0.1 and less in good light, 1 to 6 in dim. */
  pixelNoise: 1.05,
} as const;

/** Long side of the copy on which glare, fingers and light are looked for, px. */
const LOOK_LONG_SIDE_PX = 1000;
/** Millimetres to an inch. */
const MM_PER_INCH = 25.4;
/** A side this near to the border (share of the photo's long side) has nothing beyond it to prove that it is the paper's. */
const BORDER_SHARE = 0.004;

export interface ShotCircumstances {
  /** The paper's long side. */
  readonly longSideMm: number;
  /** As it was read on the photo, or null. */
  readonly motionBlur: MotionBlur | null;
}

/**
 * Looks at a shot as a careful person would before taking the page away.
 * @param photo - upright, at its full size
 * @param page - outline in photo pixels
 * Method: each measure says its own (edgeWidth, glare, thumb). Limits: their thresholds were set on simulated photos, those of fingers and noise on real ones, too.
 */
export function inspectShot(photo: PixelImage, page: Quad, { longSideMm, motionBlur }: ShotCircumstances): ShotVerdict {
  const small = fitLongSide(photo, LOOK_LONG_SIDE_PX);
  const factor = small.width / photo.width;
  const smallPage = scaleQuad(page, factor);
  const [tl, tr, br, bl] = page;
  const longSidePx = Math.max((distance(tl, tr) + distance(bl, br)) / 2, (distance(tl, bl) + distance(tr, br)) / 2);
  const pxPerMm = longSidePx / longSideMm;
  const edgePx = measureEdgeWidth(photo, page);
  const glare = findGlare(small, smallPage);
  const onBorder = sidesOnBorder(page, photo.width, photo.height);
  // a page that fills its photo, on purpose or as a scan does, ends where the photo does
  const cutSides = onBorder.every(Boolean) ? onBorder.map(() => false) : onBorder;
  const thumbSides = findThumbs(small, smallPage);
  const paperLightness = lightnessOfPaper(small, smallPage);
  const pixelNoise = measurePixelNoise(photo, page);
  const verdict = {
    missing: findMissingPart(photo),
    edgeWidthMm: edgePx === null ? null : edgePx / pxPerMm,
    slipped: motionBlur !== null,
    effectiveDpi: pxPerMm * MM_PER_INCH,
    glareAt: glare === null ? null : scalePoint(glare, 1 / factor),
    cutSides,
    thumbSides,
    paperLightness,
    pixelNoise,
  };
  const wrong: Readonly<Record<ShotFinding, boolean>> = {
    incomplete: verdict.missing !== null,
    blurred:
      verdict.slipped ||
      (edgePx !== null && edgePx > SHOT_LIMITS.edgeWidthPx && edgePx / pxPerMm > SHOT_LIMITS.edgeWidthMm),
    cut: cutSides.some(Boolean),
    glare: glare !== null,
    thumb: thumbSides.some(Boolean),
    lowDetail: verdict.effectiveDpi < SHOT_LIMITS.effectiveDpi,
    dark: paperLightness < SHOT_LIMITS.paperLightness || pixelNoise > SHOT_LIMITS.pixelNoise,
  };
  return { findings: SHOT_FINDINGS.filter((finding) => wrong[finding]), ...verdict };
}

/** A side with both corners on the border, or with one corner beyond it. */
function sidesOnBorder(page: Quad, width: number, height: number): boolean[] {
  const margin = BORDER_SHARE * Math.max(width, height);
  const within = (p: Point, room: number): boolean =>
    p.x >= room && p.y >= room && p.x <= width - room && p.y <= height - room;
  return page.map((a, i) => {
    const b = page[(i + 1) % 4]!;
    return (!within(a, margin) && !within(b, margin)) || !within(a, -margin) || !within(b, -margin);
  });
}

/** Places looked at across a page, and down, for its lightness. */
const PLACES = 60;

/** Lightness that 9 of 10 places of the page stay under; 255 where none of them is in the picture. */
function lightnessOfPaper({ width, height, channels, data }: PixelImage, page: Quad): number {
  const green = channels === 1 ? 0 : 1;
  const levels: number[] = [];
  for (let k = 0; k < PLACES * PLACES; k++) {
    const p = placeOnQuad(page, ((k % PLACES) + 0.5) / PLACES, (Math.floor(k / PLACES) + 0.5) / PLACES);
    const [x, y] = [Math.floor(p.x), Math.floor(p.y)];
    if (x >= 0 && y >= 0 && x < width && y < height) levels.push(data[(y * width + x) * channels + green]!);
  }
  return quantile(levels, 0.9, 255);
}

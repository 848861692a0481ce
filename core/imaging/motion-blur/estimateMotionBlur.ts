import { wholePicture, type Quad } from '../geometry/quad';
import type { PixelImage } from '../raster/pixelImage';
import { detailByDirection } from './detailByDirection';
import type { MotionBlur } from './motionBlur';
import { LONGEST_PX } from './motionBlur';
import { frequency, readSpectrum, WINDOW_PX } from './pageSpectrum';

/*
 * Linear camera shake convolves a picture with a short line: its spectrum is multiplied by a squared sinc along the motion,
 * which is nothing at the inverse of the line's length (Yitzhaky et al., "Direct method for restoration of motion-blurred
 * images", JOSA A 15, 1998, use the same mark). The mean spectrum of the windows with most ink is compared with that of every
 * shake that could be. What depends on the frequency alone (the lens) and on the direction alone (writing, rules) is taken out
 * of both before.
 * Limits: straight and even motion only, the same over the page; below about 4 px it is not told from other things.
 */

/** A page whose detail in its poorest direction is this share of that in its richest has not slipped: most are told at a glance. */
const EVEN_DETAIL = 0.2;
/** Frequencies compared begin here, in cycles a pixel: below is the layout of the page. */
const LOWEST = 0.04;
/** And end here: above is noise. */
const HIGHEST = 0.25;
/** Rules and lines of print stand upright and level: their spikes lie this near the axes. */
const NEAR_AXIS = 0.02;
/** Directions in which spectra are averaged, over half a turn. */
const ANGLE_BINS = 30;
/** What fills the bands, as a share of what would be there. */
const FILLED = 0.03;
/** The noise is taken off, but for this share. */
const NOISE_LEFT = 0.1;
/** Shortest length tried, px. */
const SHORTEST_PX = 3;
/** Step between lengths, px. */
const LENGTH_STEP_PX = 0.5;
/** Directions tried, over half a turn: six degrees apart. */
const ANGLES = 30;
/** The lens makes slips look longer than they are. */
const LOOKS_LONGER = 1.08;
/** Length, as it looks, from which the best match is believed, px: shorter ones are seen on still photos too. */
const BELIEVED_PX = 4.5;
/** And correlation from which it is. */
const LIKE_ENOUGH = 0.35;

/**
 * Estimates linear motion blur; method and limits above.
 * @param picture - a photo at its full size, or a page laid flat
 * @param page - the paper's outline in it, px
 * @returns how the hand slipped, in pixels of the picture; null where it did not, or where there is too little on the page to tell
 */
export function estimateMotionBlur(
  picture: PixelImage,
  page: Quad = wholePicture(picture.width, picture.height),
): MotionBlur | null {
  const detail = detailByDirection(picture, page);
  if (Math.min(...detail) > EVEN_DETAIL * Math.max(...detail)) return null;
  const spectrum = readSpectrum(picture, page);
  if (spectrum === null) return null;
  const { power, noise } = spectrum;
  const { places, templates } = readTemplates();
  const seen = withoutMeans(
    Float64Array.from(places, ({ at }) => Math.log(Math.max(0, power[at]! - noise) + NOISE_LEFT * noise)),
    places,
  );
  const size = Math.sqrt(dot(seen, seen));
  let best = { alike: 0, lengthPx: 0, angleRad: 0 };
  for (const { expected, norm, lengthPx, angleRad } of templates) {
    const common = dot(seen, expected);
    const correlation = common / (norm * size);
    // as deep as a slip's bands are, not only of their shape
    const alike = correlation * Math.min(1, common / norm ** 2);
    if (correlation > 0 && alike > best.alike) best = { alike, lengthPx, angleRad };
  }
  return best.alike < LIKE_ENOUGH || best.lengthPx < BELIEVED_PX
    ? null
    : { lengthPx: best.lengthPx / LOOKS_LONGER, angleRad: best.angleRad };
}

const dot = (p: Float64Array, q: Float64Array): number => {
  let sum = 0;
  for (let i = 0; i < p.length; i++) sum += p[i]! * q[i]!;
  return sum;
};

/** A frequency that is compared, where it is in the spectrum, and which others share its length or its direction. */
interface Place {
  readonly at: number;
  readonly u: number;
  readonly v: number;
  readonly ring: number;
  readonly ray: number;
}

interface Templates {
  readonly places: readonly Place[];
  readonly templates: readonly {
    readonly lengthPx: number;
    readonly angleRad: number;
    readonly expected: Float64Array;
    readonly norm: number;
  }[];
}

let known: Templates | null = null;

/** What every slip does to the spectrum; worked out at the first question. */
function readTemplates(): Templates {
  if (known !== null) return known;
  const places: Place[] = [];
  // the other half is the same
  for (let row = 0; row < WINDOW_PX / 2; row++) {
    for (let column = 0; column < WINDOW_PX; column++) {
      const [u, v] = [frequency(column), frequency(row)];
      const length = Math.hypot(u, v);
      if (length <= LOWEST || length >= HIGHEST || Math.abs(u) <= NEAR_AXIS || Math.abs(v) <= NEAR_AXIS) continue;
      places.push({
        at: column * WINDOW_PX + row,
        u,
        v,
        ring: Math.round(length * WINDOW_PX),
        ray: Math.floor((Math.atan2(v, u) / Math.PI) * ANGLE_BINS),
      });
    }
  }
  const templates: Templates['templates'][number][] = [];
  for (let lengthPx = SHORTEST_PX; lengthPx <= LONGEST_PX; lengthPx += LENGTH_STEP_PX) {
    for (let a = 0; a < ANGLES; a++) {
      const angleRad = (a * Math.PI) / ANGLES;
      const along = ({ u, v }: Place): number => Math.PI * lengthPx * (u * Math.cos(angleRad) + v * Math.sin(angleRad));
      const sinc = (x: number): number => (Math.abs(x) < 1e-6 ? 1 : Math.sin(x) / x);
      const expected = withoutMeans(
        Float64Array.from(places, (place) => Math.log(sinc(along(place)) ** 2 + FILLED)),
        places,
      );
      templates.push({ lengthPx, angleRad, expected, norm: Math.sqrt(dot(expected, expected)) });
    }
  }
  return (known = { places, templates });
}

/** Passes of a short mean over a spectrum's bins. */
const MEAN_PASSES = 3;

/** Takes out what all frequencies of one length, and all of one direction, have in common. */
function withoutMeans(values: Float64Array, places: readonly Place[]): Float64Array {
  for (let pass = 0; pass < MEAN_PASSES; pass++) {
    for (const group of ['ring', 'ray'] as const) {
      const sums = new Float64Array(WINDOW_PX);
      const counts = new Float64Array(WINDOW_PX);
      places.forEach((place, i) => {
        sums[place[group]]! += values[i]!;
        counts[place[group]]!++;
      });
      places.forEach((place, i) => {
        values[i]! -= sums[place[group]]! / counts[place[group]]!;
      });
    }
  }
  return values;
}

import { sharpeningGain } from './sharpeningGain';
import type { PageLight } from './pageLight';
import { settingsAt, sizeBesideFile } from './smallCopy';

/** How strongly strokes are restored. */
export interface StrokeGain {
  /** How much of the difference to its neighbours a stroke gains; 0 leaves its edges as they are, too much gives it a pale rim. */
  readonly sharpened: number;
  /** Coverage c comes out as 1 - (1 - c) to the power of this: 1 leaves it, too much closes small letters. */
  readonly firmness: number;
}

/** StrokeGain.sharpened of a page that shows all of its photo's detail. Set by eye and by what is read in print on simulated photos of 200 dpi. */
const SHARPENED = 3.5;
/** StrokeGain.firmness of the same, set with it. */
const FIRMNESS = 2.1;
/** A noisy page, where nothing is sharpened, needs more. */
const NOISY_FIRMNESS = 2.5;

/**
 * Shares of what the file's page gets, in copies that are so much smaller: of sharpening, and of firmness above 1. Fitted to
 * the file's page made smaller by area, on simulated pages of small print, the hardest there is, from photos of 1500, 1900,
 * 2400 and 3000 px width: what is left differs by 2.5, 2.2, 1.7, 1.3, 1.1 and 1.1 levels on the mean, and by half of that on
 * pages of notes.
 */
const SMALL_COPIES = [
  { ratio: 0.3, settings: [0.2, 0.83] },
  { ratio: 0.38, settings: [0.2, 0.9] },
  { ratio: 0.45, settings: [0.17, 0.97] },
  { ratio: 0.55, settings: [0.2, 1.03] },
  { ratio: 0.65, settings: [0.25, 1.05] },
  { ratio: 0.8, settings: [0.35, 1.05] },
  { ratio: 1, settings: [1, 1] },
] as const;

/** How strongly the strokes of a page are to be restored: a copy with less detail has lost some of the blur that is undone. */
export function strokeGainOf(light: PageLight): StrokeGain {
  const calm = sharpeningGain(light);
  const ratio = sizeBesideFile(light);
  const detail = light.detail / ratio;
  const [sharpened, firmed] = settingsAt(SMALL_COPIES, ratio) as [number, number];
  const firmness = NOISY_FIRMNESS + (FIRMNESS - NOISY_FIRMNESS) * calm;
  return { sharpened: SHARPENED * detail ** 2 * calm * sharpened, firmness: 1 + (firmness - 1) * detail * firmed };
}

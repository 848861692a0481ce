import { estimatePaperField, type PaperField } from '../light/paperField';
import { rebuildBurntOut } from '../light/rebuildBurntOut';
import { findSlip } from '../motion-blur/findSlip';
import type { PixelImage } from '../raster/pixelImage';
import { undoSlip } from '../motion-blur/undoSlip';

/** A page with what its finishes need to know about its light: worked out once, used by every finish and every setting. */
export interface LitPage {
  /** Flattened, grey or RGB, as the photo shows it. */
  readonly flat: PixelImage;
  /** The same with burnt-out channels rebuilt and a slip of the hand undone: what finishes are made from. */
  readonly page: PixelImage;
  readonly field: PaperField;
  /** The page's size over that at which it would show all the photo's detail: less than 1 for a preview. */
  readonly detail: number;
}

/** What the light did is worked out when it is first asked for: As shot needs nothing of it. */
export function lightPage(flat: PixelImage, detail = 1): LitPage {
  let rebuilt: PixelImage | null = null;
  let field: PaperField | null = null;
  let page: PixelImage | null = null;
  const readRebuilt = (): PixelImage => (rebuilt ??= rebuildBurntOut(flat));
  const readField = (): PaperField => (field ??= estimatePaperField(readRebuilt()));
  return {
    flat,
    detail,
    get page() {
      return (page ??= steadied(readRebuilt(), readField()));
    },
    get field() {
      return readField();
    },
  };
}

function steadied(page: PixelImage, field: PaperField): PixelImage {
  const slip = findSlip(page);
  return slip === null ? page : undoSlip(page, field, slip);
}

/** Works the field out now. */
export const readLight = (lit: LitPage): PaperField => lit.field;

/** The paper's noise up to which strokes can be sharpened wholly, and from which on not at all. */
const CALM_TO = 0.006;
const NOISY_FROM = 0.011;

/** How far strokes may be sharpened without raising the noise of dim light along with them: 1 wholly, 0 not at all. */
export function calmness({ field: { noise } }: LitPage): number {
  const mean = noise.reduce((sum, each) => sum + each, 0) / noise.length;
  return Math.min(1, Math.max(0, (NOISY_FROM - mean) / (NOISY_FROM - CALM_TO)));
}

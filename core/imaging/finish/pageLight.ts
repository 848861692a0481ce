import type { IlluminationField } from '../light/illuminationField';
import { estimatePaperField, type PaperField } from '../light/paperField';
import { rebuildBurntOut } from '../light/rebuildBurntOut';
import { deconvolveMotionBlur } from '../motion-blur/deconvolveMotionBlur';
import type { MotionBlur } from '../motion-blur/motionBlur';
import { takeOutGlare } from './takeOutGlare';
import type { PixelImage } from '../raster/pixelImage';

/** A page laid flat, with what its photo tells of it. Plain data. */
export interface FlatPage {
  /** Grey or RGB, mended, as the photo shows it. */
  readonly flat: PixelImage;
  /** The page's size over that at which it would show all the photo's detail: less than 1 for a preview. */
  readonly detail: number;
  /** How the camera moved, in pixels of the flat page, or null. */
  readonly motionBlur: MotionBlur | null;
  /** Its light where that had to be estimated to mend it, or null. */
  readonly illumination: IlluminationField | null;
}

/** A page with what its finishes need to know about its light: one estimate, for every finish and every setting. Plain data. */
export interface PageLight {
  readonly flat: PixelImage;
  /** The flat page with burnt-out channels rebuilt, reflections and motion blur taken out: what finishes are made from. */
  readonly page: PixelImage;
  readonly field: PaperField;
  readonly detail: number;
}

/** A flat page of which nothing more is known. */
export const flatPageOf = (flat: PixelImage, detail = 1): FlatPage => ({
  flat,
  detail,
  motionBlur: null,
  illumination: null,
});

/** A flat page whose light is estimated when a finish first asks for it: As shot never does. */
export interface PageToFinish {
  readonly flat: PixelImage;
  readonly light: () => PageLight;
}

/** Estimates the light once, however many finishes ask for it. */
export function toFinish(page: FlatPage): PageToFinish {
  let light: PageLight | null = null;
  return { flat: page.flat, light: () => (light ??= readPageLight(page)) };
}

/** Estimates a page's light. */
export function readPageLight({ flat, detail, motionBlur, illumination }: FlatPage): PageLight {
  const rebuilt = rebuildBurntOut(flat);
  const seen =
    illumination !== null && rebuilt === flat ? estimatePaperField(flat, illumination) : estimatePaperField(rebuilt);
  const { page: clear, field } = takeOutGlare(rebuilt, seen);
  const page = motionBlur === null ? clear : deconvolveMotionBlur(clear, field, motionBlur);
  return { flat, page, field, detail };
}

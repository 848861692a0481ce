import { startFinish, type StartedFinish } from '../../../core/imaging/finish/applyFinish';
import { toFinish, type PageToFinish } from '../../../core/imaging/finish/pageLight';
import type { PixelImage } from '../../../core/imaging/raster/pixelImage';
import { releaseBuffers } from '../../../core/imaging/raster/releaseBuffers';
import { fitLongSide } from '../../../core/imaging/raster/resizeByArea';
import { preparePage, scaleRecipe } from '../../../core/work/render/renderPage';
import type { Recipe } from '../../../core/work/recipe/recipe';
import { decodeBlob } from '../../../platform/browser/decodeBlob';
import type { PhotoSource } from '../jobProtocol';

/** Pages are drawn from a copy this large; a page view on a large screen shows no more. */
export const PREVIEW_LONG_SIDE_PX = 1800;
const PREVIEWS_KEPT = 5;
const PAGES_KEPT = 2;

/** A photo small enough to draw from, and how many of its pixels one of the original's is. */
export interface Preview {
  readonly image: PixelImage;
  readonly factor: number;
}

export type PhotoCache = ReturnType<typeof createPhotoCache>;

/** Notes an entry as the one used last, and drops the oldest beyond so many. */
function touch<T>(map: Map<string, T>, key: string, value: T, most: number): T {
  map.delete(key);
  map.set(key, value);
  for (const oldest of map.keys()) {
    if (map.size <= most) break;
    map.delete(oldest);
  }
  return value;
}

/** What a worker remembers of the photos it looked at last, so that the next look at one costs only what is new. */
export function createPhotoCache() {
  const previews = new Map<string, Preview>();
  /** Flat pages with their light, so that a slider costs only what comes after it. */
  const pages = new Map<string, PageToFinish>();
  /** The finish looked at last: while a slider moves, only what follows it is done again. */
  let started: { readonly page: PageToFinish; readonly key: string; readonly set: StartedFinish } | null = null;

  async function preview({ key, blob, fileName, pdfPage, width }: PhotoSource): Promise<Preview> {
    const kept = previews.get(key);
    if (kept !== undefined) return touch(previews, key, kept, PREVIEWS_KEPT);
    const photo = await decodeBlob(blob, fileName, pdfPage);
    const image = fitLongSide(photo, PREVIEW_LONG_SIDE_PX);
    // a small photo is its own preview
    if (image !== photo) releaseBuffers(photo.data);
    return touch(previews, key, { image, factor: image.width / width }, PREVIEWS_KEPT);
  }

  return {
    preview,
    async page(source: PhotoSource, recipe: Recipe, longSidePx: number): Promise<PageToFinish> {
      const { outline, sheet, quarterTurns, mends, reading } = recipe;
      const { corners, bends, lines } = outline;
      const key = JSON.stringify([source.key, corners, bends, lines, sheet, quarterTurns, mends, reading, longSidePx]);
      const { image, factor } = await preview(source);
      const prepare = (): PageToFinish =>
        toFinish(preparePage(image, scaleRecipe(recipe, factor), { longSidePx, reduced: factor }));
      return touch(pages, key, pages.get(key) ?? prepare(), PAGES_KEPT);
    },
    finish(page: PageToFinish, { finish, light }: Recipe): PixelImage {
      const key = `${finish} ${light.fadeRules} ${light.invert}`;
      if (started?.page !== page || started.key !== key) {
        started = { page, key, set: startFinish(page, finish, light) };
      }
      return started.set(light);
    },
    forget(): void {
      previews.clear();
      pages.clear();
      started = null;
    },
  };
}

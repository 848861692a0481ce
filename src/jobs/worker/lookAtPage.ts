import { proposeOutlines, type DetectedOutline } from '../../../core/imaging/detect/detectOutline';
import { applyFinish } from '../../../core/imaging/finish/applyFinish';
import { PLAIN_LIGHT } from '../../../core/imaging/finish/finishSettings';
import { suggestFinish } from '../../../core/imaging/finish/suggestFinish';
import { readShape } from '../../../core/imaging/flatten/flattenPage';
import { linesThatTell } from '../../../core/imaging/flatten/linesThatTell';
import { pageGrid } from '../../../core/imaging/flatten/pageGrid';
import { scaleLines, type PageLine } from '../../../core/imaging/flatten/pageLine';
import { readingPage } from '../../../core/imaging/flatten/readingPage';
import { scaleQuad } from '../../../core/imaging/geometry/quad';
import { glareBox } from '../../../core/imaging/quality/glare';
import { readFrameFacts } from '../../../core/imaging/live/frameFacts';
import { findBlemishes } from '../../../core/imaging/mend/findBlemishes';
import type { PixelImage } from '../../../core/imaging/raster/pixelImage';
import { scaleMends, scaleRecipe, shapeOf } from '../../../core/work/render/renderPage';
import { encodeJpeg } from '../../../platform/browser/encodePicture';
import type {
  FactsRequest,
  FactsResult,
  GridRequest,
  GridResult,
  LookRequest,
  LookResult,
  OutlinesRequest,
  OutlinesResult,
} from '../jobProtocol';
import type { PhotoCache } from './photoCache';

/* What is asked of a page beside its picture; all of it from the preview. */

export async function outlines({ original }: OutlinesRequest, photos: PhotoCache): Promise<OutlinesResult> {
  const { image, factor } = await photos.preview(original);
  const { found, targets } = proposeOutlines(image);
  return {
    found:
      found === null
        ? null
        : {
            ...found,
            quad: scaleQuad(found.quad, 1 / factor),
            lines: scaleLines(linesInside(found, image), 1 / factor),
          },
    targets: targets.map((quad) => scaleQuad(quad, 1 / factor)),
  };
}

function linesInside({ quad, bends }: DetectedOutline, image: PixelImage): readonly PageLine[] {
  const shape = readShape(quad, image, { bends });
  return linesThatTell(readingPage(image, shape), shape, (lines) => readShape(quad, image, { bends, lines }));
}

export const grid = ({ photo, recipe }: GridRequest): GridResult => pageGrid(shapeOf(photo, recipe));

const LOOK_LONG_SIDE_PX = 1000;

export async function look({ original, recipe }: LookRequest, photos: PhotoCache): Promise<LookResult> {
  const { image, factor } = await photos.preview(original);
  const own = scaleRecipe(recipe, factor);
  const page = await photos.page(original, recipe, LOOK_LONG_SIDE_PX);
  const lit = page.light();
  const blemishes = findBlemishes(lit.page, lit.field, shapeOf(image, own)).map((blemish) => ({
    ...blemish,
    mends: scaleMends(blemish.mends, 1 / factor),
  }));
  return { suggested: suggestFinish(lit), blemishes, glare: glareBox(page.flat) };
}

const FACTS_LONG_SIDE_PX = 1500;
/** How much of the page's height its head and its foot are. */
const STRIP_SHARE = 0.11;
const STRIP_QUALITY = 0.9;

export async function facts({ original, recipe }: FactsRequest, photos: PhotoCache): Promise<FactsResult> {
  const flat = await photos.page(original, recipe, FACTS_LONG_SIDE_PX);
  const page = applyFinish(flat, 'daylight', PLAIN_LIGHT);
  const { width, height, channels, data } = page;
  const rows = Math.round(STRIP_SHARE * height);
  const strip = (first: number): PixelImage => ({
    width,
    height: rows,
    channels,
    data: data.slice(first * width * channels, (first + rows) * width * channels),
  });
  return {
    blank: suggestFinish(flat.light()) === null,
    fingerprint: readFrameFacts(page, null).fingerprint,
    strips: await Promise.all([strip(0), strip(height - rows)].map((image) => encodeJpeg(image, STRIP_QUALITY))),
  };
}

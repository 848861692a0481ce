import { createPixelImage, type PixelImage } from '../raster/pixelImage';
import type { JpegCodec } from './codedPage';
import { greyOf, similarityOf, type Likeness } from './layerSimilarity';

/*
 * Whether a page is better off as one JPEG than in layers. Both are judged by the same measure, their likeness around ink and
 * everywhere. What a JPEG of some quality would weigh, and how like it would be, is tried on bands of the page: a sixth of it.
 */

/** Rows of a band, and of what lies between the beginnings of two: whole blocks of a JPEG. */
const BAND_ROWS = 32;
const EVERY_ROWS = 192;
/** Qualities that are tried: below the first a JPEG is a mosaic, however it is measured. */
const QUALITIES = { from: 0.17, to: 0.8 } as const;
/** The least quality, and halvings of what is between that and the most. */
const ROUNDS = 5;
/** By so much a JPEG must be smaller than layers of its likeness, on the bands, to be made. */
const CLEARLY_SMALLER = 0.95;
/** Bytes a pixel below which no JPEG of a page was, at the least of these qualities: 24 simulated pages. */
const NEVER_BELOW = 0.012;
/** A JPEG's tables, which bands have too. */
const HEADER_BYTES = 600;
/** What coding pictures and the background takes from the likeness of layers, which is measured before it. */
const CODING_LOSS = 0.003;

/** Bands of a page, one below the other; of a low page, all of it. */
function bandsOf({ width, height, channels, data }: PixelImage): PixelImage {
  const tops = Array.from({ length: Math.ceil(height / EVERY_ROWS) }, (_, k) => k * EVERY_ROWS + EVERY_ROWS / 2).filter(
    (top) => top + BAND_ROWS <= height,
  );
  if (tops.length === 0) return { width, height, channels, data };
  const bands = createPixelImage(width, tops.length * BAND_ROWS, channels);
  const stride = width * channels;
  tops.forEach((top, k) =>
    bands.data.set(data.subarray(top * stride, (top + BAND_ROWS) * stride), k * BAND_ROWS * stride),
  );
  return bands;
}

/**
 * The quality of a JPEG that is as like the page as its layers are, and smaller.
 * Method: halving between a least and a most quality, each judged by the structural similarity of the bands.
 * @param page - finished: RGB, RGBA or grey
 * @param likeness - of the layers to the page, before coding
 * @param bytes - of the layers, coded
 * @returns 0 to 1; null where there is none
 */
export async function jpegAsLike(
  page: PixelImage,
  likeness: Likeness,
  bytes: number,
  jpeg: JpegCodec,
): Promise<number | null> {
  if (bytes < NEVER_BELOW * page.width * page.height) return null;
  const bands = bandsOf(page);
  const before = greyOf(bands);
  const most = HEADER_BYTES + ((CLEARLY_SMALLER * bytes - HEADER_BYTES) * bands.height) / page.height;
  let { from, to }: { from: number; to: number } = QUALITIES;
  let found: number | null = null;
  // the least first: where that is too much already, nothing else need be tried
  for (let round = 0; round < ROUNDS && found !== QUALITIES.from; round++) {
    const quality = round === 0 ? from : (from + to) / 2;
    const coded = await jpeg.encode(bands, quality);
    if (coded.length > most) {
      if (round === 0) return null;
      to = quality;
      continue;
    }
    const own = similarityOf(before, greyOf(await jpeg.decode(coded)), bands.width, bands.height);
    // the page's ink lies between the bands, and nothing can be said
    if (own.ink === 1 && likeness.ink < 1) return null;
    // what it lacks everywhere it may have more of about ink
    if (own.ink >= likeness.ink - CODING_LOSS && own.ink + own.all >= likeness.ink + likeness.all - 2 * CODING_LOSS) {
      found = quality;
      to = quality;
    } else from = quality;
  }
  return found;
}

import type { Finish } from '../finish/finishSettings';
import { isBilevel } from '../finish/finishSettings';
import type { PixelImage } from '../raster/pixelImage';
import { releaseBuffers } from '../raster/releaseBuffers';
import { encodeJbig2, encodeJbig2Rows } from '../jbig2/jbig2';
import { inkDepthOf } from './inkDepth';
import { jpegAsLike } from './jpegAsLike';
import { layerSimilarity, type Likeness } from './layerSimilarity';
import { findStrokes, type Tones } from './findStrokes';
import { inkRows } from './inkRows';
import type { PaleRules } from './paleRules';
import { separateLayers, withCheaperMasks } from './separateLayers';
import type { PageLayers } from './pageLayers';
import type { CodedLayers, CodedPage, CodedPicture, Coding, JpegCodec } from './codedPage';
import { bytesOf } from './codedPage';

/** A background is smooth: what little it has survives at this. */
const BACKGROUND_QUALITY = 0.5;
/** From here on layers look like the page (structural similarity around ink). */
const GOOD_LIKENESS = 0.955;
/** Layers that look less like it than this would harm it: with soft edges, and with hard ones, where blur is given up on purpose. */
const leastLikeness = (softEdges: boolean): number => (softEdges ? 0.86 : 0.7);

/**
 * Codes a finished page as small as it looks well: two levels as JBIG2, strokes on white paper in layers, all else, and what
 * layers would harm or make larger, as one JPEG.
 * @param page - rendered at the coding's dpi: RGB, RGBA or grey
 * @param onProgress - told how much is done, 0 to 1
 */
export async function codePage(
  page: PixelImage,
  finish: Finish,
  { softEdges, quality }: Coding,
  jpeg: JpegCodec,
  onProgress: (share: number) => void = () => undefined,
): Promise<CodedPage> {
  const { width, height } = page;
  if (isBilevel(finish)) return { coding: 'jbig2', bytes: encodeJbig2(page), width, height };
  const whole = async (wanted = quality): Promise<CodedPicture> => ({
    coding: 'jpeg',
    bytes: await jpeg.encode(page, wanted),
    width,
    height,
  });
  // on grey paper everything would be ink
  if (finish === 'asshot') return whole();
  const found = layersOf(page, softEdges, () => onProgress(DONE.strokesFound));
  const { likeness } = found;
  if (mostlyPictures(found.layers, width * height) || likeness.ink < leastLikeness(softEdges)) return whole();
  const layers = withCheaperMasks(page, found.rules, found.layers);
  onProgress(DONE.takenApart);
  const coded: CodedLayers = {
    coding: 'layers',
    width,
    height,
    background:
      layers.background === null
        ? null
        : {
            bytes: await jpeg.encode(layers.background, BACKGROUND_QUALITY),
            width: layers.background.width,
            height: layers.background.height,
          },
    inks: layers.inks.map((colour, ink) => ({
      colour,
      box: layers.inkBox,
      bytes: encodeJbig2Rows(inkRows(layers, ink, width)),
    })),
    pictures: await Promise.all(
      layers.pictures.map(async ({ box, picture }) => ({ box, bytes: await jpeg.encode(picture, quality) })),
    ),
  };
  // full of tones, nearly empty or blurred, it can be as good and smaller as it is
  const bytes = bytesOf(coded);
  const like = await jpegAsLike(page, likeness, bytes, jpeg);
  if (like === null) return coded;
  const plain = await whole(like);
  return plain.bytes.length < bytes ? plain : coded;
}

/** About how much of the work is done once strokes are known, and once their tones are and have only to be coded. */
const DONE = { strokesFound: 0.55, takenApart: 0.75 } as const;

/**
 * The page in layers. Two tones do for strokes as sharp as most; softer ones get a third. Where that is too unlike, filled boxes are
 * full of grain or far darker than the strokes of their ink: they become pictures.
 * @returns the likeness is that before masks are made cheaper, which takes .002 from it
 */
function layersOf(
  page: PixelImage,
  softEdges: boolean,
  onStrokes: () => void,
): { readonly layers: PageLayers; readonly likeness: Likeness; readonly rules: PaleRules } {
  const { depth, grey } = inkDepthOf(page);
  let strokes = findStrokes(page, depth);
  onStrokes();
  const taken = (tones: Tones): readonly [PageLayers, Likeness] => {
    const layers = separateLayers(page, tones, strokes);
    return [layers, layerSimilarity(page, layers, grey)];
  };
  const takenInTones = (): readonly [PageLayers, Likeness] => {
    const first = taken(softEdges ? 2 : 1);
    return !softEdges || first[1].ink >= GOOD_LIKENESS ? first : taken(3);
  };
  let best = takenInTones();
  if (best[1].ink < leastLikeness(softEdges)) {
    strokes = findStrokes(page, depth, 'picture');
    best = takenInTones();
  }
  releaseBuffers(depth, strokes.full);
  if (grey !== page.data) releaseBuffers(grey);
  return { layers: best[0], likeness: best[1], rules: strokes.rules };
}

/** Share of a page that pictures cover from which on it is coded as one picture. */
const MOSTLY = 0.6;

const mostlyPictures = ({ pictures }: PageLayers, pixels: number): boolean =>
  pictures.reduce((sum, { box }) => sum + box.width * box.height, 0) > MOSTLY * pixels;

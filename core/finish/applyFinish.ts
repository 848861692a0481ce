import { estimateIlluminationField } from '../light/illuminationField';
import { createPixelImage, type PixelImage } from '../raster/pixelImage';

export const FINISHES = ['asshot', 'daylight'] as const;
export type Finish = (typeof FINISHES)[number];

/** Values at this share of the illumination field and above become white: paper grain and sensor noise lie above it. */
const WHITE_SHARE = 0.92;
/** Values at this share and below become black; the darkest pen on paper lies a little above it. */
const BLACK_SHARE = 0.06;
/** Above 1 darkens what lies between: it gives back the weight that thin strokes lose to blur. */
const INK_GAMMA = 1.6;

/**
 * Lights a flat page as the finish asks. Never alters its input.
 * @param page - flattened page, grey or RGB
 */
export function applyFinish(page: PixelImage, finish: Finish): PixelImage {
  return finish === 'daylight' ? daylight(page) : page;
}

/**
 * Daylight: white paper, true colours. The illumination field is divided out channel by channel, which also takes the
 * lamp's colour away, and the tones are stretched so that paper is white and ink keeps its weight.
 */
function daylight(page: PixelImage): PixelImage {
  const field = estimateIlluminationField(page);
  const { width, height, channels, data } = page;
  const out = createPixelImage(width, height, channels);
  const tone = Uint8ClampedArray.from({ length: 1025 }, (_, i) => {
    const share = (i / 1024) * 1.25;
    return 255 * Math.min(1, Math.max(0, (share - BLACK_SHARE) / (WHITE_SHARE - BLACK_SHARE))) ** INK_GAMMA;
  });
  const colours = field.planes.length;
  const columns = Array.from({ length: width }, (_, x) => {
    const at = Math.min(field.width - 1, Math.max(0, ((x + 0.5) / width) * field.width - 0.5));
    return { at: Math.floor(at), share: at - Math.floor(at) };
  });
  const row = new Float32Array(field.width);
  for (let y = 0; y < height; y++) {
    const v = Math.min(field.height - 1, Math.max(0, ((y + 0.5) / height) * field.height - 0.5));
    const low = Math.floor(v);
    const high = Math.min(field.height - 1, low + 1);
    for (let c = 0; c < colours; c++) {
      const plane = field.planes[c]!;
      for (let i = 0; i < field.width; i++) {
        const between = plane[low * field.width + i]! * (1 - (v - low)) + plane[high * field.width + i]! * (v - low);
        row[i] = 1024 / 1.25 / between;
      }
      for (let x = 0, at = y * width * channels + c; x < width; x++, at += channels) {
        const { at: i, share } = columns[x]!;
        const gain = row[i]! * (1 - share) + row[i + 1 < field.width ? i + 1 : i]! * share;
        const index = data[at]! * gain;
        out.data[at] = tone[index > 1024 ? 1024 : index | 0]!;
      }
    }
  }
  return out;
}

import { withWorkspace, type Workspace } from '../kernels/workspace';
import {
  addEverywhereInto,
  addUpsampledInto,
  convolve,
  createNetwork,
  meanOf,
  pointwise,
  separable,
  type Layer,
  type Tensor,
} from '../network/convolution';
import type { Point } from '../geometry/point';
import { bilinear } from '../raster/bilinear';
import { CHANNELS, colourless, type ColourPicture } from './colourPicture';
import { PAGE_NETWORK_WEIGHTS } from './pageNetworkWeights';

/*
 * Where a sheet of paper is, as a picture of probabilities, from a small convolutional network.
 * Method: an encoder and decoder with skip connections (Ronneberger et al., "U-Net", MICCAI 2015) of depthwise separable
 * convolutions (Howard et al., "MobileNets", 2017), trained on drawn desks by bench/train/page_network.py. About 30
 * million multiplications a picture. It knows what a page is but not exactly where its edge lies: that is measured
 * afterwards in the picture itself.
 */

/** What the network says of a picture, at half its working size. */
export interface PageSegmentation {
  readonly width: number;
  readonly height: number;
  /** Chance that a place belongs to the topmost sheet, 0 to 1. */
  readonly page: Float32Array;
  /** The page's size in map pixels: the sum of those chances. */
  readonly pageArea: number;
  /** Chance that the sheet's edge passes here, 0 to 1. */
  readonly edge: Float32Array;
}

interface Size {
  readonly width: number;
  readonly height: number;
}

/** Chance that a place of a picture of that size belongs to the topmost sheet; null outside it. */
export function pageProbability({ width, height, page }: PageSegmentation, p: Point, picture: Size): number | null {
  const column = Math.floor((p.x * width) / picture.width);
  const row = Math.floor((p.y * height) / picture.height);
  return column < 0 || row < 0 || column >= width || row >= height ? null : page[row * width + column]!;
}

/** Chance that the sheet's edge passes a place of a picture of that size, interpolated. */
export function edgeProbability({ width, height, edge }: PageSegmentation, p: Point, picture: Size): number {
  const px = Math.min(width - 1.001, Math.max(0, (p.x * width) / picture.width - 0.5));
  const py = Math.min(height - 1.001, Math.max(0, (p.y * height) / picture.height - 0.5));
  const column = Math.floor(px);
  const row = Math.floor(py);
  return bilinear(edge, width, row * width + column, px - column, py - row);
}

/** Long side of the picture that the network was trained on. */
const NETWORK_LONG_SIDE_PX = 256;
/** The encoder halves the picture four times. */
const STRIDE_PX = 16;

/**
 * Runs the network.
 * @param picture - of any size, best at least NETWORK_LONG_SIDE_PX long; upright or not makes no difference
 * @returns maps in the picture's own orientation; they cover it whole
 */
export function segmentPage(picture: ColourPicture): PageSegmentation {
  const scale = NETWORK_LONG_SIDE_PX / Math.max(picture.width, picture.height);
  const fit = (side: number): number => Math.max(STRIDE_PX, Math.round((side * scale) / STRIDE_PX) * STRIDE_PX);
  const lying = picture.width > picture.height; // the network was trained on standing pictures
  const image = toTensor(picture, fit(picture.width), fit(picture.height), lying);
  const out = withWorkspace((ws) => {
    const { width, height, samples } = forward(image, ws);
    return { width, height, logits: samples.copy() };
  });
  const { logits } = out;
  const size = out.width * out.height;
  const width = lying ? out.height : out.width;
  const height = lying ? out.width : out.height;
  const [page, edge] = [logits.subarray(0, size), logits.subarray(size)].map((channel) =>
    probabilities(channel, width, height, lying),
  ) as [Float32Array, Float32Array];
  let pageArea = 0;
  for (let i = 0; i < size; i++) pageArea += page[i]!;
  return { width, height, page, pageArea, edge };
}

/** What logits say in chances, row by row; of a lying picture they come column by column. */
function probabilities(logits: Float32Array, width: number, height: number, lying: boolean): Float32Array {
  const [across, down] = lying ? [height, 1] : [1, width];
  const map = new Float32Array(width * height);
  for (let y = 0, to = 0; y < height; y++) {
    for (let x = 0, from = y * down; x < width; x++, to++, from += across) map[to] = 1 / (1 + Math.exp(-logits[from]!));
  }
  return map;
}

/** The network's page as a picture, as light as it is sure of the page: 0 to `levels`. */
export const pictureOfPage = (
  { width, height, page }: PageSegmentation,
  levels: number,
  ws: Workspace,
): ColourPicture => colourless(width, height, (at) => levels * page[at]!, ws);

/** Red, green and blue picture, one after another. */
interface Picture {
  readonly height: number;
  readonly width: number;
  readonly data: Float32Array;
}

/** Red, green and blue from -1 to 1; each value is the mean of the pixels its place covers. */
function toTensor(picture: ColourPicture, toWidth: number, toHeight: number, transposed: boolean): Picture {
  const { width, height } = picture;
  const values = picture.samples.copy();
  const size = toWidth * toHeight;
  const out = new Float32Array(3 * size);
  const starts = (from: number, to: number): Int32Array =>
    Int32Array.from({ length: to + 1 }, (_, k) => Math.min(from - 1, Math.floor((k * from) / to)));
  const columns = starts(width, toWidth);
  const rows = starts(height, toHeight);
  for (let y = 0; y < toHeight; y++) {
    const y0 = rows[y]!;
    const y1 = Math.max(y0 + 1, rows[y + 1]!);
    for (let x = 0; x < toWidth; x++) {
      const x0 = columns[x]!;
      const x1 = Math.max(x0 + 1, columns[x + 1]!);
      let sumL = 0;
      let sumA = 0;
      let sumB = 0;
      for (let j = y0; j < y1; j++) {
        for (let i = CHANNELS * (j * width + x0); i < CHANNELS * (j * width + x1); i += CHANNELS) {
          sumL += values[i]!;
          sumA += values[i + 1]!;
          sumB += values[i + 2]!;
        }
      }
      const count = (y1 - y0) * (x1 - x0) * 127.5;
      // toColourPicture undone
      const redGreen = sumA / 0.7 / count;
      const yellowBlue = sumB / 0.7 / count;
      const yellow = sumL / count + 0.144 * redGreen + 0.114 * yellowBlue;
      const to = transposed ? x * toHeight + y : y * toWidth + x;
      out[to] = yellow + redGreen / 2 - 1;
      out[size + to] = yellow - redGreen / 2 - 1;
      out[2 * size + to] = yellow - yellowBlue - 1;
    }
  }
  return { height: transposed ? toWidth : toHeight, width: transposed ? toHeight : toWidth, data: out };
}

const openNetwork = createNetwork(PAGE_NETWORK_WEIGHTS);

function forward(image: Picture, ws: Workspace): Tensor {
  const network = openNetwork(ws);
  const layer = (name: string): Layer => network.layer(name);
  /** Depthwise and pointwise convolution by their common name. */
  const block = (input: Tensor, name: string, stride: 1 | 2 = 1): Tensor =>
    separable(input, layer(`${name}_d`), layer(`${name}_p`), stride);
  const a = convolve(network.input(3, image.height, image.width, image.data), layer('stem_c'), 2);
  const b = block(block(a, 'b1', 2), 'b2');
  const c = block(block(b, 'c1', 2), 'c2');
  let d = block(c, 'd1', 2);
  for (let i = 2; i <= 5; i++) {
    d = block(d, `d${i}`);
    if (i === 2 || i === 4) addEverywhereInto(d, pointwise(meanOf(d), layer(`g${i}_g`), false));
  }
  const c3 = block(addUpsampledInto(c, pointwise(d, layer('u1_p'), true)), 'c3');
  const b3 = block(block(addUpsampledInto(b, pointwise(c3, layer('u2_p'), true)), 'b3'), 'b4');
  const a2 = block(addUpsampledInto(a, pointwise(b3, layer('u3_p'), true)), 'a2');
  return pointwise(a2, layer('head_h'), false);
}

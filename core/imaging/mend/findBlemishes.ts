import { fieldCells } from '../light/fieldCells';
import type { PageShape } from '../flatten/flattenPage';
import { pageToPhoto } from '../flatten/placeOnPage';
import { distance } from '../geometry/point';
import type { PaperField } from '../light/paperField';
import { connectedRegions, type Region } from '../raster/connectedRegions';
import { fitLongSide } from '../raster/resizeByArea';
import type { PixelImage } from '../raster/pixelImage';
import { isSkin } from '../quality/thumb';
import type { Mend } from './mend';

/*
 * Things on the page's rim that nobody wrote: fingers (skin that reaches in from a side) and binding holes (dark discs
 * 4 to 9 mm wide, near a side, two or more in one line). They are offered, never taken away unasked.
 */

/** Long side of the copy that is looked at: a punched hole is ten px wide. */
const LOOK_LONG_SIDE_PX = 500;
/** Area of a thumb at least, as a share of the long side squared: 6 mm by 6 on A4. */
const LEAST_THUMB_AREA = 0.0004;
/** Width of a punched hole at least, as a share of the long side: 3.3 mm on A4. */
const HOLE_LEAST = 0.011;
/** And at most: 9.5 mm. */
const HOLE_MOST = 0.032;
/** How far from the side it lies at most: 22 mm. */
const HOLE_FROM_SIDE = 0.075;
/** Lightness below which it shows the desk, as a share of the paper's. */
const HOLE_SHARE = 0.72;
/** A disc fills this much of its box; writing and boxes fill less or more. */
const DISC_FILL = [0.64, 0.9] as const;

export interface Blemish {
  readonly kind: 'thumb' | 'hole';
  /** Where on the page it is, in shares. */
  readonly at: { readonly x: number; readonly y: number };
  readonly mends: readonly Mend[];
}

/**
 * Finds fingers and binding holes; method above.
 * @param page - flat page, RGB (a grey one shows no skin)
 * @param field - its paper field
 * @param shape - how it lies in its photo; mends are given in the photo's px
 */
export function findBlemishes(page: PixelImage, field: PaperField, shape: PageShape): readonly Blemish[] {
  const small = fitLongSide(page, LOOK_LONG_SIDE_PX);
  const { width, height, channels, data } = small;
  const long = Math.max(width, height);
  const skin = new Uint8Array(width * height);
  const dark = new Uint8Array(width * height);
  const { columnOf, rowOf } = fieldCells(small, field);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const at = rowOf[y]! + columnOf[x]!;
      const white = field.planes.map((plane) => plane[at]!);
      const colour = [
        data[i * channels]!,
        data[i * channels + (channels > 1 ? 1 : 0)]!,
        data[i * channels + (channels > 1 ? 2 : 0)]!,
      ] as const;
      if (channels > 1 && isSkin(colour, [white[0]!, white[1]!, white[2]!])) skin[i] = 1;
      if (colour[1] < HOLE_SHARE * (white[1] ?? white[0]!)) dark[i] = 1;
    }
  }
  const touchesSide = ({ left, top, right, bottom }: Region): boolean =>
    left <= 1 || top <= 1 || right >= width - 2 || bottom >= height - 2;
  const thumbs = connectedRegions(skin, width, height).filter((region) => {
    const deep = Math.min(region.right - region.left, region.bottom - region.top) + 1;
    const wide = Math.max(region.right - region.left, region.bottom - region.top) + 1;
    // a strip of desk along a misplaced side is long and thin
    return (
      touchesSide(region) && region.pixels.length >= LEAST_THUMB_AREA * width * height && wide < 5 * deep && deep >= 4
    );
  });
  const holes = inLine(
    connectedRegions(dark, width, height).filter((region) => {
      const w = region.right - region.left + 1;
      const h = region.bottom - region.top + 1;
      const fill = region.pixels.length / (w * h);
      const x = (region.left + region.right) / 2;
      const y = (region.top + region.bottom) / 2;
      const aside = Math.min(x, width - 1 - x, y, height - 1 - y);
      return (
        Math.max(w, h) <= HOLE_MOST * long &&
        Math.min(w, h) >= HOLE_LEAST * long &&
        w / h < 1.4 &&
        h / w < 1.4 &&
        fill > DISC_FILL[0] &&
        fill < DISC_FILL[1] &&
        aside < HOLE_FROM_SIDE * long
      );
    }),
    0.01 * long,
  );
  const toPhoto = pageToPhoto(shape);
  const blemish = (kind: Blemish['kind'], region: Region): Blemish => ({
    kind,
    at: { x: (region.left + region.right + 1) / 2 / width, y: (region.top + region.bottom + 1) / 2 / height },
    mends: coverRegion(region, width, height, kind === 'thumb' ? 4 : 2.5, toPhoto),
  });
  return [...thumbs.map((region) => blemish('thumb', region)), ...holes.map((region) => blemish('hole', region))];
}

/** Those that share their distance from a side with another one. */
function inLine(regions: readonly Region[], tolerance: number): Region[] {
  const x = ({ left, right }: Region): number => (left + right) / 2;
  const y = ({ top, bottom }: Region): number => (top + bottom) / 2;
  return regions.filter((a) =>
    regions.some((b) => b !== a && (Math.abs(x(a) - x(b)) < tolerance || Math.abs(y(a) - y(b)) < tolerance)),
  );
}

/** Brush strokes that cover a region and a rim around it: level lines, a radius apart. */
function coverRegion(
  region: Region,
  width: number,
  height: number,
  rim: number,
  toPhoto: ReturnType<typeof pageToPhoto>,
): Mend[] {
  const rows = new Map<number, [number, number]>();
  for (const i of region.pixels) {
    const y = Math.floor(i / width);
    const x = i % width;
    const span = rows.get(y);
    if (span === undefined) rows.set(y, [x, x]);
    else rows.set(y, [Math.min(span[0], x), Math.max(span[1], x)]);
  }
  const radius = rim + 1;
  const mends: Mend[] = [];
  for (let y = region.top; y <= region.bottom; y += 2) {
    const span = rows.get(y);
    if (span === undefined) continue;
    const v = (y + 0.5) / height;
    const a = toPhoto((span[0] + 0.5) / width, v);
    const b = toPhoto((span[1] + 0.5) / width, v);
    const beside = toPhoto((span[0] + 0.5 + radius) / width, v);
    mends.push({
      points: [a, b].map((p) => ({ x: Math.round(p.x * 10) / 10, y: Math.round(p.y * 10) / 10 })),
      radius: Math.round(distance(a, beside) * 10) / 10,
    });
  }
  return mends;
}

import { greyOf } from '../../imaging/layers/layerSimilarity';
import { darkBoxes } from '../../imaging/layers/pictureRegions';
import { forEachRow, type PixelBox } from '../../imaging/layers/pixelBox';
import { createPixelImage, type PixelImage } from '../../imaging/raster/pixelImage';

/** A part of a page that is read for itself, and where on the page it is, px. */
export interface BoxToRead<Picture> {
  readonly picture: Picture;
  readonly at: PixelBox;
}

/** What an OCR engine gets of a page. */
export interface PageToRead<Picture> {
  readonly page: Picture;
  readonly width: number;
  readonly height: number;
  /** Dark boxes with white print: an engine takes them for pictures, and reads nothing in them. */
  readonly boxes: readonly BoxToRead<Picture>[];
}

/** A row or a column is of a box where this share of it is dark. */
const DARK_SHARE = 0.4;
/** What a box's soft edge takes, px. */
const EDGE_PX = 4;
/** White around what stands in a box, px: letters at the very edge of a picture are not read. */
const MARGIN_PX = 12;

/**
 * A page as an OCR engine reads it best: grey, as it was before any coding; and what is printed white in dark boxes as dark print on
 * white.
 * @param page - finished: RGB, RGBA or grey
 */
export function pageToRead(page: PixelImage): PageToRead<PixelImage> {
  const { width, height } = page;
  const grey: PixelImage = { width, height, channels: 1, data: greyOf(page) };
  const boxes = darkBoxes(page).flatMap(({ box, depth }) => {
    const at = withoutEdge(grey, box, 255 - depth / 2);
    return at === null ? [] : [turned(grey, at)];
  });
  return { page: grey, width, height, boxes };
}

/** The same with its pictures encoded. */
export async function encodedToRead<Picture>(
  { page, width, height, boxes }: PageToRead<PixelImage>,
  encode: (picture: PixelImage) => Promise<Picture>,
): Promise<PageToRead<Picture>> {
  return {
    page: await encode(page),
    width,
    height,
    boxes: await Promise.all(boxes.map(async ({ picture, at }) => ({ picture: await encode(picture), at }))),
  };
}

/**
 * The inside of a dark box.
 * @param around - the box, about
 * @param darkBelow - what is darker is the box, or its soft edge
 * @returns null where nothing is left
 */
function withoutEdge({ width, data }: PixelImage, around: PixelBox, darkBelow: number): PixelBox | null {
  const rows = new Uint32Array(around.height);
  const columns = new Uint32Array(around.width);
  forEachRow(around, width, (from, to) => {
    const row = Math.floor(from / width) - around.y;
    for (let i = from; i < to; i++) {
      if (data[i]! >= darkBelow) continue;
      rows[row]!++;
      columns[i - from]!++;
    }
  });
  const isOfBox = (length: number) => (dark: number) => dark > DARK_SHARE * length;
  const top = rows.findIndex(isOfBox(around.width)) + EDGE_PX;
  const bottom = rows.findLastIndex(isOfBox(around.width)) - EDGE_PX;
  const left = columns.findIndex(isOfBox(around.height)) + EDGE_PX;
  const right = columns.findLastIndex(isOfBox(around.height)) - EDGE_PX;
  return top >= bottom || left >= right
    ? null
    : { x: around.x + left, y: around.y + top, width: right - left + 1, height: bottom - top + 1 };
}

/** What stands in a box as dark on white. */
function turned({ width, data }: PixelImage, box: PixelBox): BoxToRead<PixelImage> {
  const picture = createPixelImage(box.width + 2 * MARGIN_PX, box.height + 2 * MARGIN_PX, 1);
  picture.data.fill(255);
  let to = MARGIN_PX * picture.width + MARGIN_PX;
  forEachRow(box, width, (from, end) => {
    for (let i = from; i < end; i++) picture.data[to + i - from] = 255 - data[i]!;
    to += picture.width;
  });
  return {
    picture,
    at: { x: box.x - MARGIN_PX, y: box.y - MARGIN_PX, width: picture.width, height: picture.height },
  };
}

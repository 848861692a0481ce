import {
  concatTransformationMatrix,
  drawObject,
  popGraphicsState,
  pushGraphicsState,
  setFillingRgbColor,
  type PDFDocument,
  type PDFPage,
  type PDFRef,
} from '@cantoo/pdf-lib';
import type { CodedLayers } from '../../imaging/layers/codedPage';
import type { CodedPage } from '../../imaging/layers/codedPage';
import type { Rgb } from '../../imaging/layers/inkColours';
import type { PixelBox } from '../../imaging/layers/pixelBox';
import type { Area } from './boundPage';

/** Lays a coded page on a sheet. */
export async function drawCoded(pdf: PDFDocument, page: PDFPage, coded: CodedPage, area: Area): Promise<void> {
  if (coded.coding === 'layers') await drawLayers(pdf, page, coded, area);
  else if (coded.coding === 'jpeg') page.drawImage(await pdf.embedJpg(coded.bytes), area);
  else paint(page, bilevel(pdf, coded.bytes, coded.width, coded.height, { ColorSpace: 'DeviceGray' }), area);
}

async function drawLayers(
  pdf: PDFDocument,
  page: PDFPage,
  { width, height, background, inks, pictures }: CodedLayers,
  area: Area,
): Promise<void> {
  const areaOf = (box: PixelBox): Area => ({
    x: area.x + (box.x / width) * area.width,
    y: area.y + (1 - (box.y + box.height) / height) * area.height,
    width: (box.width / width) * area.width,
    height: (box.height / height) * area.height,
  });
  if (background !== null) page.drawImage(await pdf.embedJpg(background.bytes), area);
  for (const { colour, box, bytes } of inks)
    paint(page, bilevel(pdf, bytes, box.width, box.height, { ImageMask: true }), areaOf(box), colour);
  for (const { box, bytes } of pictures) page.drawImage(await pdf.embedJpg(bytes), areaOf(box));
}

/** A JBIG2 picture as an object of the file: the library knows no such images. */
const bilevel = (
  pdf: PDFDocument,
  bytes: Uint8Array,
  width: number,
  height: number,
  use: { ColorSpace: string } | { ImageMask: boolean },
): PDFRef =>
  pdf.context.register(
    pdf.context.stream(bytes, {
      Type: 'XObject',
      Subtype: 'Image',
      Width: width,
      Height: height,
      BitsPerComponent: 1,
      Filter: 'JBIG2Decode',
      ...use,
    }),
  );

function paint(page: PDFPage, image: PDFRef, { x, y, width, height }: Area, colour?: Rgb): void {
  const name = page.node.newXObject('Image', image);
  const fill =
    colour === undefined
      ? []
      : [setFillingRgbColor(...(colour.map((level) => Math.round((level / 255) * 1000) / 1000) as unknown as Rgb))];
  page.pushOperators(
    pushGraphicsState(),
    ...fill,
    concatTransformationMatrix(width, 0, 0, height, x, y),
    drawObject(name),
    popGraphicsState(),
  );
}

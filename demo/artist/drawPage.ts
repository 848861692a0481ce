import { packRgb } from '../../core/imaging/raster/packRgb';
import type { PixelImage } from '../../core/imaging/raster/pixelImage';
import { createRandom, type Random } from '../random';
import { drawBotanyPlate } from './botanyPage';
import { drawCalculation } from './calculationPage';
import { drawTideCurve } from './curvePage';
import { drawKnot } from './knotPage';
import { drawLogSheet } from './logSheetPage';
import { drawNotes } from './notesPage';
import { layPaper, type Stock } from './paperStock';
import { drawPrintedText } from './printedPage';
import { createSheet, type Sheet, type WrittenLine } from './sheet';

const PAGE_ART = {
  calculation: { stock: 'squared', draw: drawCalculation },
  curve: { stock: 'squared', draw: drawTideCurve },
  botany: { stock: 'plain', draw: drawBotanyPlate },
  log: { stock: 'plain', draw: drawLogSheet },
  knot: { stock: 'plain', draw: drawKnot },
  printed: { stock: 'plain', draw: drawPrintedText },
  notes: { stock: 'ruled', draw: drawNotes },
} as const satisfies Record<string, { stock: Stock; draw: (sheet: Sheet) => void }>;

export type PageKind = keyof typeof PAGE_ART;
export const PAGE_KINDS = Object.keys(PAGE_ART) as PageKind[];

export const SHEET_SIZES_MM = { a4: [210, 297], letter: [215.9, 279.4], a5: [148, 210] } as const;
export type SheetSize = keyof typeof SHEET_SIZES_MM;

/** A finished page at ARTIST_DPI: what a flatbed would see, and what is known about it. */
export interface DrawnPage {
  readonly widthMm: number;
  readonly heightMm: number;
  readonly image: PixelImage;
  /** One byte a pixel, 255 where pen, print or pencil covers the paper, else 0. */
  readonly inkMask: Uint8Array;
  readonly lines: readonly WrittenLine[];
}

/** The page drawn last: frames of one scene, and tests, ask for the same one again and again. */
let last: { readonly key: string; readonly page: DrawnPage } | null = null;

/** Draws one page of the made-up college; the same kind, size and seed always give the same page. */
export function drawPage(kind: PageKind, size: SheetSize, seed: number): DrawnPage {
  const key = JSON.stringify([kind, size, seed]);
  if (last?.key !== key) last = { key, page: drawPageAnew(kind, size, seed) };
  return last.page;
}

function drawPageAnew(kind: PageKind, size: SheetSize, seed: number): DrawnPage {
  const [widthMm, heightMm] = SHEET_SIZES_MM[size];
  const sheet = createSheet(widthMm, heightMm, createRandom(seed));
  const art = PAGE_ART[kind];
  layPaper(sheet, art.stock);
  art.draw(sheet);
  return compose(sheet);
}

/** So many rows are laid at once: what is read of a canvas is new memory, and much of it at once is slow. */
const STRIP_ROWS = 256;

/** Lays ink and grainy pencil on the paper and reads off the mask. */
function compose(sheet: Sheet): DrawnPage {
  const { widthPx: width, heightPx: height, layers } = sheet;
  const data = new Uint8ClampedArray(width * height * 3);
  const inkMask = new Uint8Array(width * height);
  for (let y = 0; y < height; y += STRIP_ROWS) {
    const count = Math.min(STRIP_ROWS, height - y);
    layStrip(
      { paper: layers.paper.rows(y, count), ink: layers.ink.rows(y, count), pencil: layers.pencil.rows(y, count) },
      data.subarray(y * width * 3, (y + count) * width * 3),
      inkMask.subarray(y * width, (y + count) * width),
      sheet.random,
    );
  }
  return {
    widthMm: sheet.widthMm,
    heightMm: sheet.heightMm,
    image: { width, height, channels: 3, data },
    inkMask,
    lines: sheet.lines,
  };
}

type Strip = Readonly<Record<keyof Sheet['layers'], Uint8ClampedArray>>;

function layStrip({ paper, ink, pencil }: Strip, data: Uint8ClampedArray, inkMask: Uint8Array, random: Random): void {
  packRgb(paper, data, 0);
  const inkPixels = new Uint32Array(ink.buffer, ink.byteOffset, inkMask.length);
  const pencilPixels = new Uint32Array(pencil.buffer, pencil.byteOffset, inkMask.length);
  for (let i = 0; i < inkMask.length; i++) {
    // what has no cover has no colour either
    if ((inkPixels[i]! | pencilPixels[i]!) === 0) continue;
    const at = 4 * i;
    const to = 3 * i;
    // graphite catches on the paper's tooth: coverage varies from point to point
    const tooth = pencil[at + 3]! === 0 ? 1 : 0.45 + 0.55 * random.next();
    const pencilAlpha = (pencil[at + 3]! / 255) * tooth;
    const inkAlpha = ink[at + 3]! / 255;
    for (let c = 0; c < 3; c++) {
      const drawn = paper[at + c]! * (1 - pencilAlpha) + pencil[at + c]! * pencilAlpha;
      data[to + c] = drawn * (1 - inkAlpha) + ink[at + c]! * inkAlpha;
    }
    if (inkAlpha > 0.5 || pencil[at + 3]! > 60) inkMask[i] = 255;
  }
}

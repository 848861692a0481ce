import type { PixelImage } from '../../core/imaging/raster/pixelImage';
import { createRandom } from '../random';
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

/** Lays ink and grainy pencil on the paper and reads off the mask. */
function compose(sheet: Sheet): DrawnPage {
  const { width, height } = sheet.paperCanvas;
  const paper = sheet.paper.getImageData(0, 0, width, height).data;
  const ink = sheet.ink.getImageData(0, 0, width, height).data;
  const pencil = sheet.pencil.getImageData(0, 0, width, height).data;
  const data = new Uint8ClampedArray(width * height * 3);
  const inkMask = new Uint8Array(width * height);
  for (let i = 0, at = 0, to = 0; i < width * height; i++, at += 4, to += 3) {
    if (ink[at + 3] === 0 && pencil[at + 3] === 0) {
      data[to] = paper[at]!;
      data[to + 1] = paper[at + 1]!;
      data[to + 2] = paper[at + 2]!;
      continue;
    }
    // graphite catches on the paper's tooth: coverage varies from point to point
    const tooth = pencil[at + 3]! === 0 ? 1 : 0.45 + 0.55 * sheet.random.next();
    const pencilAlpha = (pencil[at + 3]! / 255) * tooth;
    const inkAlpha = ink[at + 3]! / 255;
    for (let c = 0; c < 3; c++) {
      const drawn = paper[at + c]! * (1 - pencilAlpha) + pencil[at + c]! * pencilAlpha;
      data[to + c] = drawn * (1 - inkAlpha) + ink[at + c]! * inkAlpha;
    }
    if (inkAlpha > 0.5 || pencil[at + 3]! > 60) inkMask[i] = 255;
  }
  return {
    widthMm: sheet.widthMm,
    heightMm: sheet.heightMm,
    image: { width, height, channels: 3, data },
    inkMask,
    lines: sheet.lines,
  };
}

import { PDFHexString, PDFName, PDFNumber, type PDFDocument, type PDFRef } from '@cantoo/pdf-lib';

/** Every sign is half as wide as the font is large; its box on the page is made by stretching. */
export const UNSEEN_WIDTH = 0.5;
const UNITS = 1000;
/** Code 0 is left free: some readers take it for the end. */
const CODES = 255;

/** A word as codes of one of the fonts, and which. */
export interface UnseenText {
  readonly font: number;
  readonly codes: PDFHexString;
  /** How many signs it has, for its natural width. */
  readonly count: number;
}

/**
 * Fonts whose signs have no shape: for words that are searched for and not seen, in any script, without a font's bytes. They are
 * Type 3 fonts (ISO 32000-2, 9.6.4) with one empty glyph procedure and a ToUnicode map, 255 different signs each.
 */
export class UnseenFonts {
  private readonly fonts: { readonly ref: PDFRef; readonly codes: Map<number, number> }[] = [];

  constructor(private readonly pdf: PDFDocument) {}

  /** Null for an empty word. Signs are given codes in the order they come, so the same words give the same bytes. */
  encode(text: string): UnseenText | null {
    const signs = [...text].map((sign) => sign.codePointAt(0)!);
    if (signs.length === 0) return null;
    const fits = (codes: ReadonlyMap<number, number>): boolean =>
      codes.size + new Set(signs.filter((sign) => !codes.has(sign))).size <= CODES;
    let font = this.fonts.findIndex(({ codes }) => fits(codes));
    if (font < 0) {
      font = this.fonts.length;
      this.fonts.push({ ref: this.pdf.context.nextRef(), codes: new Map() });
    }
    const { codes } = this.fonts[font]!;
    for (const sign of signs) if (!codes.has(sign)) codes.set(sign, codes.size + 1);
    const hex = signs.map((sign) => codes.get(sign)!.toString(16).padStart(2, '0')).join('');
    return { font, codes: PDFHexString.of(hex), count: signs.length };
  }

  ref(font: number): PDFRef {
    return this.fonts[font]!.ref;
  }

  /** Writes the fonts into the file, once all words have been encoded. */
  write(): void {
    for (const { ref, codes } of this.fonts) this.writeFont(ref, codes);
  }

  private writeFont(ref: PDFRef, codes: ReadonlyMap<number, number>): void {
    const { context } = this.pdf;
    const width = UNSEEN_WIDTH * UNITS;
    const shape = context.register(context.flateStream(`${width} 0 d0`));
    const used = [...codes.values()];
    const names = used.map((code) => PDFName.of(`g${code}`));
    context.assign(
      ref,
      context.obj({
        Type: 'Font',
        Subtype: 'Type3',
        Name: 'Unseen',
        FontBBox: [0, -0.25 * UNITS, width, UNITS],
        FontMatrix: [1 / UNITS, 0, 0, 1 / UNITS, 0, 0],
        CharProcs: Object.fromEntries(used.map((code) => [`g${code}`, shape])),
        Encoding: { Type: 'Encoding', Differences: [PDFNumber.of(1), ...names] },
        FirstChar: 1,
        LastChar: codes.size,
        Widths: used.map(() => width),
        Resources: {},
        ToUnicode: context.register(context.flateStream(toUnicode(codes))),
      }),
    );
  }
}

/** A CMap from codes to UTF-16 (Adobe Technical Note 5411). */
function toUnicode(codes: ReadonlyMap<number, number>): string {
  const lines = [...codes].map(([sign, code]) => `<${hex(code, 2)}> <${utf16(sign)}>`);
  const blocks: string[] = [];
  for (let i = 0; i < lines.length; i += 100) {
    const block = lines.slice(i, i + 100);
    blocks.push(`${block.length} beginbfchar\n${block.join('\n')}\nendbfchar`);
  }
  return `/CIDInit /ProcSet findresource begin
12 dict begin
begincmap
/CIDSystemInfo << /Registry (Adobe) /Ordering (UCS) /Supplement 0 >> def
/CMapName /Adobe-Identity-UCS def
/CMapType 2 def
1 begincodespacerange
<00> <FF>
endcodespacerange
${blocks.join('\n')}
endcmap
CMapName currentdict /CMap defineresource pop
end
end`;
}

const hex = (value: number, digits: number): string => value.toString(16).toUpperCase().padStart(digits, '0');

const utf16 = (sign: number): string =>
  [...Array(String.fromCodePoint(sign).length).keys()]
    .map((i) => hex(String.fromCodePoint(sign).charCodeAt(i), 4))
    .join('');

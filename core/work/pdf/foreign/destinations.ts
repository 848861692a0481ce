import {
  PDFArray,
  PDFDict,
  PDFHexString,
  PDFName,
  PDFNumber,
  PDFRef,
  PDFString,
  type PDFDocument,
  type PDFObject,
} from '@cantoo/pdf-lib';

const name = (text: string): PDFName => PDFName.of(text);

/** A place in a file that a link or an outline entry leads to. */
export interface Destination {
  /** From 0. */
  readonly pdfPage: number;
  /** How the page is to be shown there (ISO 32000-1, table 151), without the page. */
  readonly view: readonly PDFObject[];
}

/** How deep a tree of names is followed: no sound file has more levels, and one that leads back to itself would have no end. */
const DEEPEST = 24;

/** Reads where the links and outline entries of a file lead. */
export class Destinations {
  private readonly pages: ReadonlyMap<PDFRef, number>;

  constructor(private readonly source: PDFDocument) {
    this.pages = new Map(source.getPages().map(({ ref }, k) => [ref, k]));
  }

  /** Where an annotation or an outline entry leads within its file; null where it leads nowhere, out of the file, or runs something. */
  of(dict: PDFDict): Destination | null {
    const action = this.lookup(dict.get(name('A')));
    if (action instanceof PDFDict && action.get(name('S')) === name('GoTo')) return this.read(action.get(name('D')));
    return this.read(dict.get(name('Dest')));
  }

  private read(value: PDFObject | undefined, depth = 0): Destination | null {
    const found = this.lookup(value);
    if (found instanceof PDFArray) {
      const [page, ...view] = found.asArray();
      const pdfPage =
        page instanceof PDFRef ? this.pages.get(page) : page instanceof PDFNumber ? page.asNumber() : undefined;
      return pdfPage === undefined
        ? null
        : { pdfPage, view: view.map((each) => this.lookup(each)).filter((each) => each !== undefined) };
    }
    if (depth > 1) return null;
    if (found instanceof PDFDict) return this.read(found.get(name('D')), depth + 1);
    if (found instanceof PDFName) return this.read(this.inOldTable(found), depth + 1);
    if (found instanceof PDFString || found instanceof PDFHexString)
      return this.read(this.inTree(found.decodeText()), depth + 1);
    return null;
  }

  /** Names up to PDF 1.1. */
  private inOldTable(key: PDFName): PDFObject | undefined {
    const table = this.lookup(this.source.catalog.get(name('Dests')));
    return table instanceof PDFDict ? table.get(key) : undefined;
  }

  /** Names since PDF 1.2 (ISO 32000-1, 7.9.6). */
  private inTree(key: string): PDFObject | undefined {
    const names = this.lookup(this.source.catalog.get(name('Names')));
    return names instanceof PDFDict ? this.search(names.get(name('Dests')), key, 0) : undefined;
  }

  private search(value: PDFObject | undefined, key: string, depth: number): PDFObject | undefined {
    const node = this.lookup(value);
    if (!(node instanceof PDFDict) || depth > DEEPEST) return undefined;
    const leaf = this.lookup(node.get(name('Names')));
    const pairs = leaf instanceof PDFArray ? leaf.asArray() : [];
    for (let k = 0; k + 1 < pairs.length; k += 2) {
      const text = this.lookup(pairs[k]);
      if ((text instanceof PDFString || text instanceof PDFHexString) && text.decodeText() === key) return pairs[k + 1];
    }
    const kids = this.lookup(node.get(name('Kids')));
    for (const kid of kids instanceof PDFArray ? kids.asArray() : []) {
      const found = this.search(kid, key, depth + 1);
      if (found !== undefined) return found;
    }
    return undefined;
  }

  private lookup(value: PDFObject | undefined): PDFObject | undefined {
    return this.source.context.lookup(value);
  }
}

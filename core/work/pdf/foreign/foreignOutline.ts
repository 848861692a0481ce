import {
  PDFDict,
  PDFHexString,
  PDFName,
  PDFNumber,
  PDFString,
  type PDFDocument,
  type PDFObject,
  type PDFRef,
} from '@cantoo/pdf-lib';
import type { Destination, Destinations } from './destinations';

const name = (text: string): PDFName => PDFName.of(text);

/** An entry of a file's outline, with those below it. */
export interface OutlineEntry {
  readonly title: string;
  readonly leadsTo: Destination;
  readonly entries: readonly OutlineEntry[];
}

/** Outlines are read so deep, and so many entries of them, at most: one that leads back to itself would have no end. */
const DEEPEST = 32;
const MOST_ENTRIES = 20_000;

/**
 * The entries of a file's outline that lead to pages which are kept. Those below one that does not move up in its place:
 * its title tells of what was left out.
 */
export function keptOutline(
  source: PDFDocument,
  destinations: Destinations,
  isKept: (pdfPage: number) => boolean,
): readonly OutlineEntry[] {
  const { context, catalog } = source;
  let left = MOST_ENTRIES;
  const seen = new Set<PDFDict>();
  const below = (parent: PDFObject | undefined, depth: number): readonly OutlineEntry[] => {
    const found: OutlineEntry[] = [];
    if (!(parent instanceof PDFDict) || depth > DEEPEST) return found;
    let item = context.lookup(parent.get(name('First')));
    for (; item instanceof PDFDict && !seen.has(item) && left > 0; item = context.lookup(item.get(name('Next')))) {
      left--;
      seen.add(item);
      const entries = below(item, depth + 1);
      const leadsTo = destinations.of(item);
      const title = context.lookup(item.get(name('Title')));
      const isText = title instanceof PDFString || title instanceof PDFHexString;
      if (leadsTo !== null && isText && isKept(leadsTo.pdfPage))
        found.push({ title: title.decodeText(), leadsTo, entries });
      else found.push(...entries);
    }
    return found;
  };
  return below(context.lookup(catalog.get(name('Outlines'))), 0);
}

/** An entry ready to be written: where it leads is said in the new file. */
export interface WrittenEntry {
  readonly title: string;
  readonly destination: PDFObject;
  readonly entries: readonly WrittenEntry[];
}

/** Writes an outline into a file (ISO 32000-1, 12.3.3), closed below its first level. */
export function writeOutline({ context, catalog }: PDFDocument, entries: readonly WrittenEntry[]): void {
  if (entries.length === 0) return;
  const root = context.nextRef();
  const write = (parent: PDFRef, some: readonly WrittenEntry[]): { First: PDFRef; Last: PDFRef } => {
    const refs = some.map(() => context.nextRef());
    some.forEach(({ title, destination, entries: lower }, k) => {
      const dict = PDFDict.withContext(context);
      dict.set(name('Title'), PDFHexString.fromText(title));
      dict.set(name('Parent'), parent);
      dict.set(name('Dest'), destination);
      if (k > 0) dict.set(name('Prev'), refs[k - 1]!);
      if (k + 1 < refs.length) dict.set(name('Next'), refs[k + 1]!);
      if (lower.length > 0) {
        const { First, Last } = write(refs[k]!, lower);
        dict.set(name('First'), First);
        dict.set(name('Last'), Last);
        dict.set(name('Count'), PDFNumber.of(-lower.length));
      }
      context.assign(refs[k]!, dict);
    });
    return { First: refs[0]!, Last: refs.at(-1)! };
  };
  context.assign(root, context.obj({ Type: 'Outlines', ...write(root, entries), Count: entries.length }));
  catalog.set(name('Outlines'), root);
}

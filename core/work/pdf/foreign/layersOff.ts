import { PDFArray, PDFDict, PDFName, PDFRef, type PDFDocument } from '@cantoo/pdf-lib';

const name = (text: string): PDFName => PDFName.of(text);

/** The layers of a file (optional content groups; ISO 32000-1, 8.11), and which of them are switched off where nothing is chosen. */
export function layersOf({ context, catalog }: PDFDocument): {
  readonly all: readonly PDFRef[];
  readonly off: readonly PDFRef[];
} {
  const properties = context.lookup(catalog.get(name('OCProperties')));
  if (!(properties instanceof PDFDict)) return { all: [], off: [] };
  const refsIn = (dict: PDFDict, key: string): PDFRef[] => {
    const found = context.lookup(dict.get(name(key)));
    return found instanceof PDFArray ? found.asArray().filter((each): each is PDFRef => each instanceof PDFRef) : [];
  };
  const all = refsIn(properties, 'OCGs');
  const usual = context.lookup(properties.get(name('D')));
  if (!(usual instanceof PDFDict)) return { all, off: [] };
  const on = new Set(refsIn(usual, 'ON'));
  const off =
    context.lookup(usual.get(name('BaseState'))) === name('OFF')
      ? all.filter((ref) => !on.has(ref))
      : refsIn(usual, 'OFF');
  return { all, off };
}

/** Writes which layers there are in the new file and which are switched off. */
export function writeLayers({ context, catalog }: PDFDocument, all: readonly PDFRef[], off: readonly PDFRef[]): void {
  if (all.length === 0) return;
  catalog.set(name('OCProperties'), context.obj({ OCGs: [...all], D: { OFF: [...off], Order: [] } }));
}

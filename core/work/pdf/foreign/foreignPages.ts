import type { PDFPage, PDFRef } from '@cantoo/pdf-lib';
import { PDFArray, PDFDict, PDFName, PDFObjectCopier, type PDFDocument, type PDFObject } from '@cantoo/pdf-lib';
import type { PdfPage } from '../boundPage';
import { openPdf } from '../openPdf';
import { cleanPage } from './cleanPage';
import { Destinations, type Destination } from './destinations';
import { dropUnreached } from './dropUnreached';
import { keptOutline, writeOutline, type OutlineEntry, type WrittenEntry } from './foreignOutline';
import { layersOf, writeLayers } from './layersOff';
import { UsedResources } from './usedResources';

const name = (text: string): PDFName => PDFName.of(text);

/** A PDF that pages are taken from. */
interface Source {
  readonly document: PDFDocument;
  readonly copier: PDFObjectCopier;
  readonly destinations: Destinations;
  readonly resources: UsedResources;
  /** Where its pages stand in the new file, by their number in it; a page that was taken twice, where it stands first. */
  readonly taken: Map<number, PDFRef>;
}

/** A link that waits until all pages are there. */
interface Link {
  readonly source: Source;
  readonly page: PDFPage;
  readonly ref: PDFRef;
  readonly leadsTo: Destination;
}

/**
 * Takes pages of other PDFs over into a file. What several pages of one PDF share, fonts and pictures, comes once. Of pages that
 * are not taken nothing comes along: neither their content nor what only they use, and no link, outline entry or layer of
 * theirs. Links and outline entries between pages that are taken lead where they led.
 */
export class ForeignPages {
  private readonly sources = new Map<Uint8Array, Promise<Source>>();
  private readonly links: Link[] = [];

  constructor(private readonly pdf: PDFDocument) {}

  /**
   * Adds one page at the end of the file.
   * @throws FotoplanError PDF_UNREADABLE
   */
  async add({ pdf: bytes, pdfPage }: PdfPage): Promise<PDFPage> {
    if (!this.sources.has(bytes)) this.sources.set(bytes, this.open(bytes));
    const source = await this.sources.get(bytes)!;
    const { context } = this.pdf;
    const clean = cleanPage(source.document.getPage(pdfPage), source.resources, source.destinations);
    const page = this.pdf.addPage([1, 1]);
    for (const key of page.node.keys()) if (key !== name('Parent') && key !== name('Type')) page.node.delete(key);
    for (const [key, value] of clean.dict.entries()) page.node.set(key, source.copier.copy(value));
    const annotations = PDFArray.withContext(context);
    for (const { dict, leadsTo } of clean.annotations) {
      const copy = source.copier.copy(dict);
      copy.set(name('P'), page.ref);
      const ref = context.register(copy);
      annotations.push(ref);
      if (leadsTo !== null) this.links.push({ source, page, ref, leadsTo });
    }
    if (annotations.size() > 0) page.node.set(name('Annots'), annotations);
    if (!source.taken.has(pdfPage)) source.taken.set(pdfPage, page.ref);
    return page;
  }

  /** Once all pages of the file are there: joins links and outline entries, and takes out what nothing leads to. */
  async finish(): Promise<void> {
    if (this.sources.size === 0) return;
    for (const { source, page, ref, leadsTo } of this.links) {
      const destination = this.destinationIn(source, leadsTo);
      if (destination === null) remove(page, ref);
      else this.pdf.context.lookup(ref, PDFDict).set(name('Dest'), destination);
    }
    const outline: WrittenEntry[] = [];
    const layers: { readonly all: PDFRef[]; readonly off: PDFRef[] } = { all: [], off: [] };
    for (const source of await Promise.all(this.sources.values())) {
      const kept = keptOutline(source.document, source.destinations, (pdfPage) => source.taken.has(pdfPage));
      outline.push(...kept.map((entry) => this.written(source, entry)));
      this.takeLayers(source, layers);
    }
    writeOutline(this.pdf, outline);
    writeLayers(this.pdf, layers.all, layers.off);
    dropUnreached(this.pdf);
  }

  private async open(bytes: Uint8Array): Promise<Source> {
    const document = await openPdf(bytes);
    return {
      document,
      copier: PDFObjectCopier.for(document.context, this.pdf.context),
      destinations: new Destinations(document),
      resources: new UsedResources(document.context),
      taken: new Map(),
    };
  }

  private written(source: Source, { title, leadsTo, entries }: OutlineEntry): WrittenEntry {
    return {
      title,
      destination: this.destinationIn(source, leadsTo)!,
      entries: entries.map((entry) => this.written(source, entry)),
    };
  }

  /** The same place in the new file; null where its page was not taken. */
  private destinationIn({ taken, copier }: Source, { pdfPage, view }: Destination): PDFObject | null {
    const page = taken.get(pdfPage);
    if (page === undefined) return null;
    const destination = PDFArray.withContext(this.pdf.context);
    destination.push(page);
    for (const each of view) destination.push(copier.copy(each));
    return destination;
  }

  /** The layers that something in the new file stands on: those of pages left out are not named. */
  private takeLayers(
    { document, copier }: Source,
    { all, off }: { readonly all: PDFRef[]; readonly off: PDFRef[] },
  ): void {
    const layers = layersOf(document);
    if (layers.all.length === 0) return;
    const before = new Set(this.pdf.context.enumerateIndirectObjects().map(([ref]) => ref));
    for (const layer of layers.all) {
      const copy = copier.copy(layer);
      // one that is new was on no page
      if (!before.has(copy)) continue;
      all.push(copy);
      if (layers.off.includes(layer)) off.push(copy);
    }
  }
}

function remove({ node }: PDFPage, annotation: PDFRef): void {
  const annotations = node.lookupMaybe(name('Annots'), PDFArray);
  const at = annotations?.indexOf(annotation);
  if (at !== undefined) annotations!.remove(at);
}

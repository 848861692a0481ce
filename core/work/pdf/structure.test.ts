import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { PDFRawStream } from '@cantoo/pdf-lib';
import {
  decodePDFRawStream,
  PDFArray,
  PDFDict,
  PDFDocument,
  PDFHexString,
  PDFName,
  PDFNumber,
  type PDFObject,
  type PDFPage,
  PDFRef,
} from '@cantoo/pdf-lib';
import sharp from 'sharp';
import type { Mark } from '../marks/marks';
import type { PageWord } from '../words/pageWord';
import { bindPdf, type BindOptions } from './bindPdf';
import type { BoundPage } from './boundPage';

const name = (text: string): PDFName => PDFName.of(text);
const FONT = readFileSync(
  'node_modules/@expo-google-fonts/atkinson-hyperlegible-next/400Regular/AtkinsonHyperlegibleNext_400Regular.ttf',
);

/** A line of words from the left, as if it had been read there. */
const line = (text: string, y: number, height = 0.014): PageWord[] =>
  text.split(' ').map((word, k) => ({ text: word, x: 0.1 + 0.09 * k, y, width: 0.08, height, confidence: 0.97 }));

const WORDS = [
  ...line('Tides at Gannet Haven', 0.06, 0.024),
  ...line('High water was read off', 0.14),
  ...line('the pier each morning', 0.165),
  ...line('Low water was not', 0.3),
];
const MARKS: readonly Mark[] = [
  {
    kind: 'pen',
    id: 'a',
    colour: '#a3243b',
    width: 0.01,
    points: [
      { x: 0.2, y: 0.4 },
      { x: 0.6, y: 0.5 },
    ],
  },
  { kind: 'note', id: 'b', colour: '#1f4f9e', at: { x: 0.2, y: 0.6 }, text: 'Redone on\nFriday' },
];
const COVER = { title: 'Set 4', pagesLabel: 'Seiten', lines: [['Name', 'Mira Tolvanen-Adeyemi'] as const] };

async function paper(rest: Partial<BoundPage> = {}): Promise<BoundPage> {
  const bytes = await sharp({ create: { width: 300, height: 424, channels: 3, background: '#fff' } })
    .jpeg()
    .toBuffer();
  return { content: { coding: 'jpeg', bytes, width: 300, height: 424 }, ...rest };
}

const bound = async (pages: readonly BoundPage[], options: Partial<BindOptions> = {}): Promise<PDFDocument> =>
  PDFDocument.load(await bindPdf(pages, { title: 'Set 4', paper: 'a4', font: FONT, ...options }), {
    updateMetadata: false,
  });

/** An element with what is below it, as it stands in the tree. */
interface Element {
  readonly kind: string;
  readonly alt: string | null;
  readonly sequences: readonly number[];
  readonly page: PDFRef | null;
  readonly ref: PDFRef;
  readonly below: readonly Element[];
}

function treeOf(pdf: PDFDocument): Element | null {
  const root = pdf.catalog.lookup(name('StructTreeRoot'));
  if (!(root instanceof PDFDict)) return null;
  const read = (ref: PDFRef, parent: PDFRef): Element => {
    const element = pdf.context.lookup(ref, PDFDict);
    expect(element.get(name('P'))).toBe(parent);
    const kids = element.lookup(name('K'));
    const all: PDFObject[] = kids instanceof PDFArray ? kids.asArray() : kids === undefined ? [] : [kids];
    const alt = element.lookup(name('Alt'));
    return {
      kind: element.lookup(name('S'), PDFName).decodeText(),
      alt: alt instanceof PDFHexString ? alt.decodeText() : null,
      sequences: all.flatMap((each) => (each instanceof PDFNumber ? [each.asNumber()] : [])),
      page: (element.get(name('Pg')) as PDFRef | undefined) ?? null,
      ref,
      below: all.flatMap((each) => (each instanceof PDFRef ? [read(each, ref)] : [])),
    };
  };
  const [top] = root.lookup(name('K'), PDFArray).asArray();
  return read(top as PDFRef, pdf.catalog.get(name('StructTreeRoot')) as PDFRef);
}

const flat = (element: Element): Element[] => [element, ...element.below.flatMap(flat)];
const shape = ({ kind, below }: Element): string =>
  below.length === 0 ? kind : `${kind}(${below.map(shape).join(' ')})`;

/** What paints: all of it belongs to a part of the page, or is told to mean nothing. */
const PAINTS = new Set(['Do', 'Tj', 'TJ', "'", '"', 'f', 'F', 'f*', 'S', 's', 'B', 'B*', 'b', 'b*', 'sh']);

/** The numbers of a page's sequences, in the order of its content. */
function sequencesOf(page: PDFPage): number[] {
  const contents = page.node.Contents()!;
  const streams =
    contents instanceof PDFArray ? contents.asArray().map((ref) => page.doc.context.lookup(ref)) : [contents];
  const text = streams
    .map((stream) => new TextDecoder('latin1').decode(decodePDFRawStream(stream as PDFRawStream).decode()))
    .join('\n');
  const numbers: number[] = [];
  let depth = 0;
  for (const operation of text.split('\n')) {
    const operator = operation.trim().split(/\s+/).at(-1)!;
    if (operator === 'BDC' || operator === 'BMC') depth++;
    if (operator === 'BDC') numbers.push(Number(/\/MCID (\d+)/.exec(operation)![1]));
    if (operator === 'EMC') depth--;
    if (PAINTS.has(operator)) expect([operation, depth]).toEqual([operation, 1]);
  }
  expect(depth).toBe(0);
  return numbers;
}

/** Goes from content to tree and back, as a reader does (ISO 32000-1, 14.7.4.4). */
function expectWholeTree(pdf: PDFDocument): void {
  const elements = flat(treeOf(pdf)!);
  const owners = pdf.catalog.lookup(name('StructTreeRoot'), PDFDict).lookup(name('ParentTree'), PDFDict);
  const entries = owners.lookup(name('Nums'), PDFArray);
  pdf.getPages().forEach((page) => {
    const key = page.node.lookup(name('StructParents'), PDFNumber).asNumber();
    expect((entries.get(2 * key) as PDFNumber).asNumber()).toBe(key);
    const ofPage = entries.lookup(2 * key + 1, PDFArray);
    const sequences = sequencesOf(page);
    expect(ofPage.size()).toBe(sequences.length);
    expect([...sequences].sort((a, b) => a - b)).toEqual(sequences.map((_, k) => k));
    for (const sequence of sequences) {
      const owner = elements.find(({ ref }) => ref === ofPage.get(sequence))!;
      expect(owner.sequences).toContain(sequence);
      expect(owner.page).toBe(page.ref);
    }
  });
  for (const { kind, alt } of elements) if (kind === 'Figure') expect(alt).not.toBeNull();
}

describe('what a file is made of', () => {
  it('is told for every page: its picture, its heading and paragraphs in the order they are read, what was written on it', async () => {
    const pdf = await bound([await paper({ words: WORDS, marks: MARKS }), await paper()]);
    expectWholeTree(pdf);
    const tree = treeOf(pdf)!;
    expect(shape(tree)).toBe('Document(Sect(Figure H1 P P P) Sect(Figure))');
    expect(flat(tree).flatMap(({ alt }) => alt ?? [])).toEqual([
      'Page 1: Redone on Friday. Tides at Gannet Haven',
      'Page 2',
    ]);
    // a stroke is a part of the picture that it was drawn on
    expect(tree.below[0]!.below[0]!.sequences).toHaveLength(2);
    expect(String(pdf.catalog.lookup(name('MarkInfo')))).toContain('/Marked true');
    expect(new TextDecoder().decode((pdf.catalog.lookup(name('Metadata')) as PDFRawStream).contents)).toContain(
      '<pdfuaid:part>1</pdfuaid:part>',
    );
  });

  it('begins with the cover, whose title is above the headings of the pages', async () => {
    const pdf = await bound([await paper({ words: WORDS })], { cover: COVER, language: 'de' });
    expectWholeTree(pdf);
    expect(shape(treeOf(pdf)!)).toBe('Document(Sect(H1 P P) Sect(Figure H2 P P))');
    expect(flat(treeOf(pdf)!).flatMap(({ alt }) => alt ?? [])).toEqual(['Seite 1: Tides at Gannet Haven']);
  });

  it('is read so by another program', async () => {
    const file = path.join(mkdtempSync(path.join(tmpdir(), 'fotoplan-')), 'bound.pdf');
    writeFileSync(
      file,
      await bindPdf([await paper({ words: WORDS })], { title: 'Set 4', paper: 'a4', font: FONT, cover: COVER }),
    );
    expect(execFileSync('pdfinfo', [file]).toString()).toMatch(/Tagged:\s+yes/);
    const told = execFileSync('pdfinfo', ['-struct-text', file]).toString().replaceAll(/\s+/g, ' ');
    expect(told).toMatch(/H1.*Set 4.*Name.*Mira.*Figure.*H2.*Tides at Gannet Haven.*P.*High water was read off/);
  });

  it('is not told where a page of another PDF is among them, and the file does not claim it', async () => {
    const other = await PDFDocument.create();
    other.addPage([300, 400]).drawText('From elsewhere');
    const content = { pdf: await other.save(), pdfPage: 0, quarterTurns: 0, pagesTaken: 1 };
    const pdf = await bound([await paper({ words: WORDS }), { content, words: WORDS, marks: MARKS }]);
    expect(treeOf(pdf)).toBeNull();
    expect(pdf.catalog.get(name('MarkInfo'))).toBeUndefined();
    expect(new TextDecoder().decode((pdf.catalog.lookup(name('Metadata')) as PDFRawStream).contents)).not.toContain(
      'pdfuaid:part',
    );
  });
});

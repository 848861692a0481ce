import type { PDFDict, PDFHexString, PDFRawStream } from '@cantoo/pdf-lib';
import { PDFArray, PDFDocument, PDFName, type PDFObject } from '@cantoo/pdf-lib';
import * as fontkit from 'fontkit';
import { readFileSync } from 'node:fs';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { addCoverSheet } from './coverSheet';
import { describeFile, type FileFacts } from './describeFile';
import { Structure } from './structure';

const FACTS: FileFacts = {
  language: 'de',
  title: 'Set 4: heights',
  archival: true,
  fingerprint: '0123456789abcdef0123456789abcdef',
  firstPage: 0,
};
const SHEET = { widthMm: 210, heightMm: 297 };
const FONT = readFileSync(
  'node_modules/@expo-google-fonts/atkinson-hyperlegible-next/400Regular/AtkinsonHyperlegibleNext_400Regular.ttf',
);

async function described(facts: Partial<FileFacts>): Promise<PDFDocument> {
  const pdf = await PDFDocument.create({ updateMetadata: false });
  pdf.addPage();
  describeFile(pdf, { ...FACTS, ...facts });
  return PDFDocument.load(await pdf.save(), { updateMetadata: false });
}
const fromCatalog = (pdf: PDFDocument, name: string): PDFObject | undefined => pdf.catalog.lookup(PDFName.of(name));
const xmpOf = (pdf: PDFDocument): string =>
  new TextDecoder().decode((fromCatalog(pdf, 'Metadata') as PDFRawStream).contents);

describe('what a file says about itself', () => {
  it('is its title, its language and how to open it', async () => {
    const pdf = await described({});
    expect(pdf.getTitle()).toBe('Set 4: heights');
    expect(String(fromCatalog(pdf, 'Lang'))).toContain('de');
    expect((fromCatalog(pdf, 'OpenAction') as PDFArray).get(1)).toBe(PDFName.of('Fit'));
    expect((fromCatalog(pdf, 'OutputIntents') as PDFArray).size()).toBe(1);
  });

  it('claims to be for keeping only where it is', async () => {
    expect(xmpOf(await described({}))).toContain(
      '<pdfaid:part>2</pdfaid:part><pdfaid:conformance>U</pdfaid:conformance>',
    );
    expect(xmpOf(await described({ archival: false }))).not.toContain('pdfaid:part');
  });

  it('names who wrote it only where that is wanted', async () => {
    const named = await described({ author: 'Mira Tolvanen-Adeyemi' });
    expect(named.getAuthor()).toBe('Mira Tolvanen-Adeyemi');
    expect(xmpOf(named)).toContain('<dc:creator>');
    const nameless = await described({});
    expect(nameless.getAuthor()).toBeUndefined();
    expect(xmpOf(nameless)).not.toContain('<dc:creator>');
  });

  it('is well-formed whatever is in a title', async () => {
    const xmp = xmpOf(await described({ archival: false, title: 'Tides < 2 & "springs" > neaps' }));
    expect(xmp).toContain('Tides &lt; 2 &amp; "springs" &gt; neaps');
    expect(xmp.match(/<rdf:li/g)).toHaveLength(2);
  });

  it('tells no time, and the same of the same', async () => {
    const pdf = await described({});
    expect([pdf.getCreationDate(), pdf.getModificationDate()]).toEqual([undefined, undefined]);
    const id = pdf.context.trailerInfo.ID as PDFArray;
    expect([id.get(0), id.get(1)].map((part) => (part as PDFHexString).asString())).toEqual([
      FACTS.fingerprint,
      FACTS.fingerprint,
    ]);
  });

  it('counts pages of the work from 1, a cover apart', async () => {
    const nums = async (firstPage: number): Promise<PDFArray> =>
      (fromCatalog(await described({ firstPage }), 'PageLabels') as PDFDict).lookup(PDFName.of('Nums'), PDFArray);
    expect((await nums(0)).size()).toBe(2);
    const withCover = await nums(1);
    expect(withCover.size()).toBe(4);
    expect(String(withCover.get(2))).toBe('1');
  });
});

describe('the cover sheet', () => {
  async function coverText(
    title: string,
    lines: readonly (readonly [string, string])[],
    pages: number,
  ): Promise<{ text: string; boxes: { right: number; top: number; bottom: number }[] }> {
    const pdf = await PDFDocument.create();
    pdf.registerFontkit(fontkit);
    const font = await pdf.embedFont(FONT);
    pdf.addPage([SHEET.widthMm, SHEET.heightMm]);
    addCoverSheet(pdf, { title, pagesLabel: 'Pages', lines }, pages, SHEET, { font, structure: new Structure() });
    const file = path.join(mkdtempSync(path.join(tmpdir(), 'fotoplan-')), 'cover.pdf');
    writeFileSync(file, await pdf.save());
    const html = execFileSync('pdftotext', ['-l', '1', '-bbox', file, '-']).toString();
    const boxes = [...html.matchAll(/<word xMin="[\d.]+" yMin="([\d.]+)" xMax="([\d.]+)" yMax="([\d.]+)"/g)].map(
      ([, top, right, bottom]) => ({ right: Number(right), top: Number(top), bottom: Number(bottom) }),
    );
    return { text: execFileSync('pdftotext', ['-l', '1', '-layout', file, '-']).toString(), boxes };
  }

  it('lies before the pages and says whose they are and how many', async () => {
    const { text } = await coverText(
      'Plate 1: sea campion',
      [
        ['Name', 'Mira Tolvanen-Adeyemi'],
        ['Course', 'Seashore Botany'],
      ],
      3,
    );
    expect(text).toMatch(
      /Plate 1: sea campion[\s\S]*Name\s+Mira Tolvanen-Adeyemi[\s\S]*Course\s+Seashore Botany[\s\S]*Pages\s+1–3/,
    );
    expect((await coverText('Plate', [], 1)).text).toMatch(/Pages\s+1\s/);
  });

  it('breaks long lines within its margins', async () => {
    const long =
      'A comparison of heights and times of high water at a secondary port with those that were read off at the pier over fifteen days in autumn';
    const { boxes } = await coverText(long, [['Course', long]], 2);
    const margin = (24 * 72) / 25.4;
    for (const { right } of boxes) expect(right).toBeLessThanOrEqual((210 * 72) / 25.4 - margin + 1);
    // none lies on another
    const lines = [...new Set(boxes.map(({ top }) => Math.round(top)))].sort((a, b) => a - b);
    expect(lines.length).toBeGreaterThan(5);
  });

  it('shows letters that its font lacks as question marks', async () => {
    expect((await coverText('Set 漢 4', [], 1)).text).toContain('Set ? 4');
  });
});

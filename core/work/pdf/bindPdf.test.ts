import { PDFDocument } from '@cantoo/pdf-lib';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { encodeJbig2 } from '../../imaging/jbig2/jbig2';
import type { Mark } from '../marks/marks';
import { createPixelImage } from '../../imaging/raster/pixelImage';
import type { CodedPicture } from '../../imaging/layers/codedPage';
import { bindPdf } from './bindPdf';
import type { BoundPage } from './boundPage';
import { measurePdf } from './openPdf';
import { longSideAtDpi, placeOnSheet, sheetFor } from '../paper/paperSize';

const picture = async (width: number, height: number): Promise<CodedPicture> => ({
  coding: 'jpeg',
  bytes: await sharp({ create: { width, height, channels: 3, background: '#fff' } })
    .jpeg()
    .toBuffer(),
  width,
  height,
});
const page = (content: BoundPage['content']): BoundPage => ({ content });
const OPTIONS = { title: 'Set 4', paper: 'auto' } as const;
const FONT = readFileSync(
  'node_modules/@expo-google-fonts/atkinson-hyperlegible-next/400Regular/AtkinsonHyperlegibleNext_400Regular.ttf',
);

/** The file on disk, for programs that read it. */
function saved(bytes: Uint8Array): string {
  const file = path.join(mkdtempSync(path.join(tmpdir(), 'fotoplan-')), 'bound.pdf');
  writeFileSync(file, bytes);
  execFileSync('qpdf', ['--check', file]);
  return file;
}

/** qpdf locks a file as an office would. */
async function lockedPdf(): Promise<Uint8Array> {
  const folder = mkdtempSync(path.join(tmpdir(), 'fotoplan-'));
  const open = await PDFDocument.create();
  open.addPage([200, 200]);
  writeFileSync(path.join(folder, 'open.pdf'), await open.save());
  execFileSync('qpdf', [
    '--encrypt',
    'tide',
    'tide',
    '256',
    '--',
    path.join(folder, 'open.pdf'),
    path.join(folder, 'locked.pdf'),
  ]);
  return readFileSync(path.join(folder, 'locked.pdf'));
}

describe('bindPdf', () => {
  it('takes bilevel pages in as JBIG2, which another reader gives back bit for bit', async () => {
    const width = 347;
    const height = 491;
    const bitmap = createPixelImage(width, height, 1);
    for (let i = 0; i < bitmap.data.length; i++)
      bitmap.data[i] = (i % width) % 17 < 4 && Math.floor(i / width) % 11 < 5 ? 0 : 255;
    const file = saved(
      await bindPdf(
        [page({ coding: 'jbig2', bytes: encodeJbig2(bitmap), width, height }), page(await picture(500, 700))],
        OPTIONS,
      ),
    );
    execFileSync('pdfimages', ['-f', '1', '-l', '1', '-png', file, file]);
    const { data, info } = await sharp(`${file}-000.png`).greyscale().raw().toBuffer({ resolveWithObject: true });
    expect([info.width, info.height]).toEqual([width, height]);
    expect(data.equals(Buffer.from(bitmap.data))).toBe(true);
  });

  it('makes one sheet a page, in order, at its true size, turned as the page is', async () => {
    const bytes = await bindPdf(
      [page(await picture(1000, 1414)), page(await picture(1294, 1000)), page(await picture(500, 500))],
      OPTIONS,
    );
    const pdf = await PDFDocument.load(bytes, { updateMetadata: false });
    const millimetres = pdf
      .getPages()
      .map((sheet) => [sheet.getWidth(), sheet.getHeight()].map((points) => (points / 72) * 25.4));
    const expected = [
      [210, 297],
      [279.4, 215.9],
      [297, 297],
    ];
    millimetres.forEach((size, i) =>
      size.forEach((mm, k) => expect(Math.abs(mm - expected[i]![k]!)).toBeLessThan(0.1)),
    );
    expect(pdf.getTitle()).toBe('Set 4');
  });

  it('takes a PDF’s pages over as they are: text stays text, turned where asked', async () => {
    const source = await PDFDocument.create();
    source.addPage([300, 500]).drawText('High water at Gannet Haven', { x: 20, y: 400, size: 12 });
    source.addPage([400, 200]);
    const pdf = await source.save();
    expect((await measurePdf(pdf, 'handout.pdf')).pages).toEqual([
      { width: 833, height: 1389 },
      { width: 1111, height: 556 },
    ]);
    const bytes = await bindPdf(
      [
        page(await picture(1000, 1414)),
        page({ pdf, pdfPage: 0, quarterTurns: 1, pagesTaken: 2 }),
        page({ pdf, pdfPage: 1, quarterTurns: 0, pagesTaken: 2 }),
      ],
      OPTIONS,
    );
    const bound = await PDFDocument.load(bytes);
    expect(
      bound
        .getPages()
        .map((sheet) => [Math.round(sheet.getWidth()), Math.round(sheet.getHeight()), sheet.getRotation().angle]),
    ).toEqual([
      [595, 842, 0],
      [300, 500, 90],
      [400, 200, 0],
    ]);
    expect(execFileSync('pdftotext', [saved(bytes), '-']).toString()).toContain('High water at Gannet Haven');
  });

  it('takes what the pages of one PDF share only once', async () => {
    const source = await PDFDocument.create();
    const noise = await sharp({
      create: {
        width: 200,
        height: 200,
        channels: 3,
        background: '#888',
        noise: { type: 'gaussian', mean: 128, sigma: 60 },
      },
    })
      .png()
      .toBuffer();
    const image = await source.embedPng(noise);
    for (let i = 0; i < 3; i++) source.addPage([300, 500]).drawImage(image);
    const pdf = await source.save();
    const bytes = await bindPdf(
      [0, 1, 0, 2].map((pdfPage) => page({ pdf, pdfPage, quarterTurns: pdfPage, pagesTaken: 4 })),
      OPTIONS,
    );
    expect(bytes.length).toBeLessThan(pdf.length + 20_000);
    expect((await PDFDocument.load(bytes)).getPages().map((sheet) => sheet.getRotation().angle)).toEqual([
      0, 90, 0, 180,
    ]);
  });

  it.each([
    ['locked', lockedPdf, 'password'],
    ['damaged', () => Promise.resolve(Buffer.from('%PDF-1.7\n%%EOF')), 'damaged'],
  ] as const)('refuses a %s PDF with the way on', async (_name, make, words) => {
    const pdf = await make();
    await expect(measurePdf(pdf, 'notes.pdf')).rejects.toMatchObject({
      code: 'PDF_UNREADABLE',
      message: expect.stringMatching(new RegExp(`“notes.pdf”.*${words}`)) as string,
    });
  });

  it('puts a card at its true size in the middle of the paper', () => {
    const sheet = sheetFor(1586, 1000, 'a4', 'card');
    const place = placeOnSheet(1586, 1000, sheet, 'card');
    expect(place.widthMm).toBeCloseTo(85.6, 6);
    expect(place.xMm * 2 + place.widthMm).toBeCloseTo(sheet.widthMm, 6);
    expect(sheetFor(1586, 1000, 'auto', 'card').widthMm).toBeCloseTo(85.6, 6);
  });

  it('gives the same bytes for the same pages, and tells nothing of when or with what', async () => {
    const one = page(await picture(300, 424));
    const bytes = await bindPdf([one], OPTIONS);
    expect(Buffer.from(bytes).equals(Buffer.from(await bindPdf([one], OPTIONS)))).toBe(true);
    const info = execFileSync('pdfinfo', [saved(bytes)]).toString();
    expect(info).not.toMatch(/CreationDate|ModDate/);
    expect(info).toMatch(/Title:\s+Set 4/);
  });

  it('refuses to make a file without pages', async () => {
    await expect(bindPdf([], OPTIONS)).rejects.toMatchObject({ code: 'NO_PAGES' });
  });

  it('lays words under a page within a millimetre of where they were read', async () => {
    const words = [
      { text: 'Gannet', x: 0.2, y: 0.3, width: 0.12, height: 0.015, confidence: 0.9 },
      { text: 'Haven', x: 0.34, y: 0.3, width: 0.1, height: 0.015, confidence: 0.9 },
      { text: '海', x: 0.5, y: 0.5, width: 0.1, height: 0.02, confidence: 0.9 },
    ];
    const file = saved(await bindPdf([{ ...page(await picture(1000, 1414)), words }], OPTIONS));
    const found = [
      ...execFileSync('pdftotext', ['-bbox', file, '-'])
        .toString()
        .matchAll(/<word xMin="([\d.]+)" yMin="([\d.]+)" xMax="([\d.]+)" yMax="([\d.]+)">(\w+)/g),
    ].map(([, x0, , x1, y1, text]) => ({ text, x0: Number(x0), x1: Number(x1), y1: Number(y1) }));
    expect(found.map(({ text }) => text)).toEqual(['Gannet', 'Haven']);
    const mm = (points: number): number => (points / 72) * 25.4;
    for (const [i, { x0, x1 }] of found.entries()) {
      expect(Math.abs(mm(x0) - words[i]!.x * 210)).toBeLessThan(1);
      expect(Math.abs(mm(x1) - (words[i]!.x + words[i]!.width) * 210)).toBeLessThan(1);
    }
    expect(execFileSync('pdftotext', [file, '-']).toString()).toContain('Gannet Haven');
  });

  it('draws marks on top as vectors, and a cover with the page list before all', async () => {
    const marks: Mark[] = [
      {
        id: 'a',
        kind: 'pen',
        colour: '#a3243b',
        width: 0.02,
        points: [
          { x: 0.2, y: 0.5 },
          { x: 0.5, y: 0.5 },
          { x: 0.8, y: 0.5 },
        ],
      },
      { id: 'b', kind: 'note', colour: '#1f4f9e', at: { x: 0.1, y: 0.1 }, text: 'See plate 2' },
      {
        id: 'c',
        kind: 'highlighter',
        colour: '#e6b800',
        width: 0.03,
        points: [
          { x: 0.2, y: 0.8 },
          { x: 0.8, y: 0.8 },
        ],
      },
    ];
    const file = saved(
      await bindPdf([{ ...page(await picture(1000, 1414)), marks }], {
        ...OPTIONS,
        font: FONT,
        cover: { title: 'Set 4: heights', pagesLabel: 'Pages', lines: [['Name', 'Mira Tolvanen-Adeyemi']] },
      }),
    );
    expect(execFileSync('pdftotext', ['-layout', file, '-']).toString()).toMatch(
      /Set 4: heights[\s\S]*Mira Tolvanen-Adeyemi[\s\S]*\f[\s\S]*See plate 2/,
    );
    execFileSync('pdftoppm', ['-f', '2', '-l', '2', '-r', '72', '-png', '-singlefile', file, file]);
    const { data, info } = await sharp(`${file}.png`).raw().toBuffer({ resolveWithObject: true });
    const at = (x: number, y: number): number[] => [
      ...data
        .subarray((Math.round(y * info.height) * info.width + Math.round(x * info.width)) * info.channels)
        .subarray(0, 3),
    ];
    expect(at(0.5, 0.5)[0]! - at(0.5, 0.5)[1]!).toBeGreaterThan(80);
    expect(at(0.5, 0.8)[2]).toBeLessThan(190);
    expect(at(0.5, 0.3)).toEqual([255, 255, 255]);
    expect(execFileSync('pdfimages', ['-list', file]).toString().trim().split('\n')).toHaveLength(3);
  });

  it('says of every sign that it draws which one it is, as PDF/A-2u wants it', async () => {
    const words = [{ text: 'naïve Ω-\u{1d54f}', x: 0.1, y: 0.2, width: 0.3, height: 0.02, confidence: 0.9 }];
    const marks: Mark[] = [
      { id: 'b', kind: 'note', colour: '#1f4f9e', at: { x: 0.1, y: 0.1 }, text: 'See plate 2: 30 °C' },
    ];
    const file = saved(
      await bindPdf([{ ...page(await picture(1000, 1414)), words, marks }], {
        ...OPTIONS,
        font: FONT,
        cover: { title: 'Set 4: heights', pagesLabel: 'Pages', lines: [] },
      }),
    );
    const fonts = execFileSync('pdffonts', [file]).toString().trimEnd().split('\n').slice(2);
    expect(fonts.length).toBeGreaterThanOrEqual(2);
    // of the cover's font only the signs that are used, which its name says
    expect(fonts.join('\n')).toMatch(/^FOTOPL\+\S+ .* yes +yes +yes +\d+ +0$/m);
    expect(readFileSync(file).length).toBeLessThan(20_000);
    // embedded, a subset or not, and mapped to Unicode
    for (const font of fonts) expect(font).toMatch(/ yes +(yes|no) +yes +\d+ +0$/);
    expect(execFileSync('pdftotext', [file, '-']).toString()).toMatch(/30 °C[\s\S]*naïve Ω-\u{1d54f}/u);
    expect(readFileSync(file).toString('latin1')).toContain('<pdfaid:conformance>U<');
  });

  it('keeps a margin, and makes all sheets of one width where that is wanted', async () => {
    const bound = await PDFDocument.load(
      await bindPdf([page(await picture(1000, 1414)), page(await picture(1414, 1000))], {
        ...OPTIONS,
        sameWidth: true,
        marginMm: 10,
      }),
    );
    expect(bound.getPages().map((sheet) => Math.round((sheet.getWidth() / 72) * 25.4))).toEqual([210, 210]);
    expect(placeOnSheet(1000, 1414, sheetFor(1000, 1414, 'a4'), 'sheet', 10).widthMm).toBeCloseTo(190, 0);
  });
});

describe('paper', () => {
  it('is filled where the proportions agree and centred where they do not', () => {
    expect(placeOnSheet(1000, 1410, sheetFor(1000, 1410, 'a4'))).toMatchObject({
      xMm: 0,
      yMm: 0,
      widthMm: 210,
      heightMm: 297,
    });
    // an outline set a little off by hand still goes on paper, in its own proportions
    expect(sheetFor(1000, 1500, 'auto')).toEqual({ widthMm: 210, heightMm: 297 });
    expect(placeOnSheet(1000, 1500, sheetFor(1000, 1500, 'auto')).widthMm).toBeCloseTo(198, 6);
    expect(sheetFor(856, 540, 'auto').heightMm).toBeLessThan(190);
    const square = placeOnSheet(500, 500, sheetFor(500, 500, 'letter'));
    expect(square.widthMm).toBeCloseTo(215.9, 6);
    expect(square.yMm).toBeCloseTo((279.4 - 215.9) / 2, 6);
  });

  it('says how many pixels a resolution needs', () => {
    expect(longSideAtDpi(1000, 1414, 'auto', 300)).toBe(Math.round((297 / 25.4) * 300));
    expect(longSideAtDpi(1414, 1000, 'letter', 100)).toBe(1100);
  });
});

import { open, readFile } from 'node:fs/promises';
import path from 'node:path';
import { FotoplanError } from '../core/errors';
import type { Finish } from '../core/finish/light';
import { bindPdf, type PagePicture, type PdfPage } from '../core/pdf/bindPdf';
import { openPdf } from '../core/pdf/openPdf';
import type { Paper } from '../core/pdf/paperSize';
import type { PageCrew } from '../platform/node/pageCrew';
import { readArguments, readCount, readFiles, readFinish, readOutput, readPaper } from './readArguments';
import { writeWhole } from './writeWhole';

/** From sharp to just readable; a limit takes the first that fits. */
const SETTINGS = [
  { dpi: 200, quality: 80 },
  { dpi: 200, quality: 65 },
  { dpi: 170, quality: 60 },
  { dpi: 150, quality: 55 },
  { dpi: 130, quality: 45 },
  { dpi: 110, quality: 40 },
  { dpi: 96, quality: 30 },
] as const;

/** One PDF, pages in the order given. Photos that cannot be used are named and left out. */
export async function bind(args: readonly string[], crew: PageCrew): Promise<number> {
  const { values, positionals } = readArguments(args, {
    output: { type: 'string', short: 'o' },
    finish: { type: 'string' },
    paper: { type: 'string' },
    'max-bytes': { type: 'string' },
  });
  const output = readOutput(values.output, '.pdf');
  const finish = readFinish(values.finish);
  const paper = readPaper(values.paper);
  const most = readCount(values['max-bytes'], '--max-bytes');
  let files = readFiles(positionals);
  let code = 0;
  const pdfs = new Map(await Promise.all(files.map(async (file) => [file, await pdfPagesOf(file)] as const)));
  for (const setting of SETTINGS) {
    const pictures = await renderAll(files, pdfs, crew, finish, paper, setting);
    const failed = pictures.filter((p): p is { readonly error: Error } => 'error' in p);
    for (const { error } of failed) process.stderr.write(`${error.message}\n`);
    if (failed.length > 0) code = 1;
    files = files.filter((_, i) => !('error' in pictures[i]!));
    if (files.length === 0) throw new FotoplanError('NO_PAGES', 'None of the photos could be used, so no PDF was made.');
    const pdf = await bindPdf(ready(pictures), { title: output.replace(/^.*\//, '').replace(/\.pdf$/i, ''), paper, nowMs: Date.now() });
    if (most === null || pdf.length <= most) {
      await writeWhole(output, pdf);
      return code;
    }
  }
  throw new FotoplanError('NO_PAGES', `${files.length} pages do not fit into ${most} bytes and stay readable. Allow more, or bind them in parts.`);
}

/** What one file gives: the pages of a PDF as they are, or one picture. */
type Rendered = readonly (PagePicture | PdfPage)[] | { readonly error: Error };

function renderAll(files: readonly string[], pdfs: ReadonlyMap<string, Rendered | null>, crew: PageCrew, finish: Finish, paper: Paper, { dpi, quality }: { dpi: number; quality: number }): Promise<Rendered[]> {
  return Promise.all(
    files.map(async (file): Promise<Rendered> => {
      try {
        const taken = pdfs.get(file);
        if (taken !== undefined && taken !== null) return taken;
        const { coding, bytes, width, height } = await crew.render({ task: 'render', file, finish, outline: 'auto', encode: { as: 'page', dpi, quality, paper } });
        return [{ coding: coding === 'jbig2' ? coding : 'jpeg', bytes, width, height }];
      } catch (error) {
        return { error: error as Error };
      }
    }),
  );
}

// eslint-disable-next-line @typescript-eslint/require-await -- bindPdf asks for pages one by one
async function* ready(rendered: readonly Rendered[]): AsyncGenerator<PagePicture | PdfPage> {
  for (const pages of rendered) if (!('error' in pages)) yield* pages;
}

/** A PDF's pages, which cost nothing to render at any setting; null where the file is none. */
async function pdfPagesOf(file: string): Promise<Rendered | null> {
  const pdf = await readPdf(file);
  if (pdf === null) return null;
  return openPdf(pdf, `“${path.basename(file)}”`).then(
    (opened) => opened.getPageIndices().map((pdfPage) => ({ pdf, pdfPage, quarterTurns: 0 })),
    (error: Error) => ({ error }),
  );
}

/** The file's bytes where it is a PDF, else null: photos are read by the worker threads. */
async function readPdf(file: string): Promise<Uint8Array | null> {
  const handle = await open(file).catch(() => null);
  if (handle === null) return null; // the worker says what is wrong
  try {
    const { buffer } = await handle.read({ buffer: Buffer.alloc(5), position: 0 });
    return buffer.toString('latin1') === '%PDF-' ? await readFile(file) : null;
  } finally {
    await handle.close();
  }
}

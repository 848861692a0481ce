import { open, readFile, stat } from 'node:fs/promises';
import path from 'node:path';
import { bindWithin } from '../core/work/pdf/bindWithin';
import { bytesOf } from '../core/imaging/layers/codedPage';
import { type CodedPage } from '../core/imaging/layers/codedPage';
import { FotoplanError } from '../core/errors';
import type { Finish } from '../core/imaging/finish/finishSettings';
import { fileNameFor } from '../core/work/naming/fileNameFor';
import { bindPdf } from '../core/work/pdf/bindPdf';
import type { BoundPage, PageWord, PdfPage } from '../core/work/pdf/boundPage';
import type { Paper } from '../core/work/paper/paperSize';
import { openPdf } from '../core/work/pdf/openPdf';
import type { Recipe } from '../core/work/recipe/recipe';
import type { PageCrew } from '../platform/node/pageCrew';
import type { RenderAnswer, RenderTask } from '../platform/node/pageTasks';
import { openReader, type Reader } from '../platform/node/reader';
import { readArguments, readCount, readFiles, readFinish, readOutput, readPaper } from './readArguments';
import { writeWhole } from './writeWhole';

/** One page to come: a photo's, or one that is taken over from a PDF. */
type Source = { readonly file: string } | PdfPage;

/** One PDF, pages in the order given. Files that cannot be used are named and left out. */
export async function bind(args: readonly string[], crew: PageCrew): Promise<number> {
  const { values, positionals } = readArguments(args, {
    output: { type: 'string', short: 'o' },
    finish: { type: 'string' },
    paper: { type: 'string' },
    'max-bytes': { type: 'string' },
    text: { type: 'boolean' },
    name: { type: 'string' },
  });
  const given = readOutput(values.output, '.pdf');
  const finish = readFinish(values.finish);
  const paper = readPaper(values.paper);
  const most = readCount(values['max-bytes'], '--max-bytes');
  const reader = values.text === true ? await openReader() : null;
  try {
    const { sources, failed } = await usableSources(readFiles(positionals), crew, { finish, paper, reader });
    if (sources.length === 0)
      throw new FotoplanError('NO_PAGES', 'None of the photos could be used, so no PDF was made.');
    const name = values.name === undefined ? null : fileNameFor(nameFrom(values.name, sources.length));
    const output = name !== null && (await isFolder(given)) ? path.join(given, name) : given;
    const title = path.basename(name ?? output).replace(/\.pdf$/i, '');
    const { files } = await bindWithin(
      {
        pages: sources.length,
        code: async (page, coding) => {
          const { source, first } = sources[page]!;
          if ('pdf' in source)
            return { page: { content: source }, bytes: Math.round(source.pdf.length / source.pagesTaken), fixed: true };
          if (coding === 0) return { page: first!.page, bytes: bytesOf(first!.coded), fixed: false };
          const coarser = await rendered(crew, {
            task: 'render',
            file: source.file,
            finish,
            outline: first!.recipe,
            encode: { as: 'coded', coding, paper, toRead: false },
          });
          return { page: { content: coarser.page, words: first!.words }, bytes: bytesOf(coarser.page), fixed: false };
        },
        assemble: async (pages: readonly BoundPage[]) => {
          const file = await bindPdf(pages, { title, paper });
          return { file, bytes: file.length };
        },
      },
      most,
    );
    await writeWhole(output, files[0]!.file);
    return failed ? 1 : 0;
  } finally {
    await reader?.close();
  }
}

/** A photo's page in the finest coding: made first of all, to see whether it can be used. */
interface FirstPage {
  readonly page: BoundPage;
  readonly coded: CodedPage;
  /** What was found then, so that a coarser coding need not look again. */
  readonly recipe: Recipe;
  readonly words: readonly PageWord[];
}
interface UsableSource {
  readonly source: Source;
  readonly first: FirstPage | null;
}

interface Wanted {
  readonly finish: Finish;
  readonly paper: Paper;
  readonly reader: Reader | null;
}

async function renderFirst(file: string, crew: PageCrew, { finish, paper, reader }: Wanted): Promise<FirstPage> {
  const { page, recipe, toRead } = await rendered(crew, {
    task: 'render',
    file,
    finish,
    outline: 'auto',
    encode: { as: 'coded', coding: 0, paper, toRead: reader !== null },
  });
  const words = reader === null || toRead === null ? [] : await reader.words(toRead);
  return { page: { content: page, words }, coded: page, recipe, words };
}

async function rendered(crew: PageCrew, task: RenderTask): Promise<Extract<RenderAnswer, { as: 'coded' }>> {
  const answer = await crew.render(task);
  if (answer.as !== 'coded') throw new Error('bind: a coded page was asked for');
  return answer;
}

async function usableSources(
  files: readonly string[],
  crew: PageCrew,
  wanted: Wanted,
): Promise<{ sources: UsableSource[]; failed: boolean }> {
  const found = await Promise.all(
    files.map(async (file): Promise<UsableSource[] | Error> => {
      try {
        const pdf = await readPdf(file);
        if (pdf === null) return [{ source: { file }, first: await renderFirst(file, crew, wanted) }];
        const opened = await openPdf(pdf, `“${path.basename(file)}”`);
        return opened.getPageIndices().map((pdfPage, _, all) => ({
          source: { pdf, pdfPage, quarterTurns: 0, pagesTaken: all.length },
          first: null,
        }));
      } catch (error) {
        return error as Error;
      }
    }),
  );
  for (const each of found) if (each instanceof Error) process.stderr.write(`${each.message}\n`);
  return {
    sources: found.flatMap((each) => (each instanceof Error ? [] : each)),
    failed: found.some((each) => each instanceof Error),
  };
}

/** {date} is today, {pages} how many pages there are; all else stays as it is. */
function nameFrom(pattern: string, pages: number): string {
  const now = new Date();
  const date = [now.getFullYear(), now.getMonth() + 1, now.getDate()].map((n) => String(n).padStart(2, '0')).join('-');
  return pattern
    .replace(/\.pdf$/i, '')
    .replaceAll('{date}', date)
    .replaceAll('{pages}', String(pages));
}

const isFolder = (file: string): Promise<boolean> =>
  stat(file).then(
    (found) => found.isDirectory(),
    () => false,
  );

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

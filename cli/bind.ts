import { open, readFile, stat } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import path from 'node:path';
import { fromWireError, FotoplanError, toWireError } from '../core/errors';
import type { Finish } from '../core/imaging/finish/finishSettings';
import type { Quad } from '../core/imaging/geometry/quad';
import type { MissingPart } from '../core/imaging/quality/missingPart';
import { bytesOf, FINEST, type CodedPage, type Coding } from '../core/imaging/layers/codedPage';
import { fileNameFor } from '../core/work/naming/fileNameFor';
import type { Paper } from '../core/work/paper/paperSize';
import { bindPdf } from '../core/work/pdf/bindPdf';
import { bindWithin, type BoundFilePart } from '../core/work/pdf/bindWithin';
import type { BoundPage, PdfPage } from '../core/work/pdf/boundPage';
import type { PageWord } from '../core/work/words/pageWord';
import { openForeignPdf } from '../core/work/pdf/openPdf';
import type { Recipe } from '../core/work/recipe/recipe';
import { isReadLanguage } from '../core/work/words/readLanguages';
import type { PageCrew } from '../platform/node/pageCrew';
import type { RenderAnswer, RenderTask } from '../platform/node/pageTasks';
import { openReader, type Reader } from '../platform/node/reader';
import { forbidsNote, missingNote, say } from './inputNotes';
import { readInputs, type Input, type Inputs } from './inputs';
import { checkOutput, readOutput, writeOutput, type Output } from './output';
import { showProgress, type Progress } from './progress';
import { readCount, readOutline, readSize, readTurns, type Given } from './readArguments';
import { UsageError } from './usageError';

/** One page to come: a photo's, or one that is taken over from a PDF. */
type Source = { readonly file: string } | PdfPage;

/** What was asked for of every page. */
interface Wanted {
  readonly finish: Finish;
  readonly paper: Paper;
  readonly dpi: number | null;
  readonly outline: 'auto' | 'whole' | Quad;
  readonly quarterTurns: number;
  readonly most: number | null;
  readonly language: string;
}

/** One PDF, or numbered parts of it, pages in the order given. Files that cannot be used are named and left out. */
export async function bind(given: Given, crew: PageCrew): Promise<number> {
  const to = readOutput(given, '.pdf');
  const wanted = readWanted(given);
  const asked = await readInputs(given, { withPdfs: true });
  let reader: Reader | null = null;
  try {
    const files = asked.inputs.flatMap((input) => ('error' in input ? [] : [input.file]));
    const intoFolder = given.value('name') !== undefined && (await isFolder(to));
    // said before any work is done; a name in a folder may count the pages, and is checked when they are known
    const checked = intoFolder ? null : await checkOutput(to, files, given);
    if (given.has('text')) reader = await readerFor(given, wanted.language, files.length);
    const { sources, failed } = await usableSources(asked.inputs, crew, wanted, reader, given.has('quiet'));
    if (sources.length === 0)
      throw new FotoplanError('NO_PAGES', 'None of the photos could be used, so no PDF was made.');
    const name = given.value('name');
    const named = name === undefined ? null : fileNameFor(nameFrom(name, sources.length));
    const output = checked ?? (await checkOutput(path.join(to, named!), files, given));
    const title = named ?? (output.file === '-' ? 'Pages' : path.basename(output.shownAs));
    const bound = await boundWithin(sources, crew, wanted, {
      title: title.replace(/\.pdf$/i, ''),
      author: given.value('author'),
      inParts: given.has('parts'),
    }).catch((error: unknown) => {
      throw withWayOut(error, sources, wanted);
    });
    await writeParts(bound, output, given, files);
    if (!given.has('quiet') && sources.some(({ source }) => 'pdf' in source))
      process.stderr.write(
        'Pages of other PDFs are in the file as they came, so that it does not claim to be PDF/A or PDF/UA.\n',
      );
    return failed ? 1 : 0;
  } finally {
    await reader?.close();
    asked.clear();
  }
}

/** Says what would help where a limit cannot be kept: only what has not been done already. */
function withWayOut(error: unknown, sources: readonly UsableSource[], { finish }: Wanted): unknown {
  if (!(error instanceof FotoplanError) || error.code !== 'FILE_TOO_LARGE') return error;
  const { parts, page } = error.facts;
  const concerned = page === undefined ? sources : [sources[Number(page)]!];
  const ways = [
    ...(finish !== 'press' && concerned.some(({ source }) => 'file' in source)
      ? ['choose --finish press, for pages without colour']
      : []),
    page === undefined ? 'leave pages out' : 'leave it out',
    'ask for a higher limit',
    ...(Number(parts) > 1 ? [`add --parts for ${parts} numbered files`] : []),
  ];
  const list = `${ways.slice(0, -1).join(', ')} or ${ways.at(-1)!}`;
  const { code, message, facts } = error;
  return new FotoplanError(code, `${message} ${list[0]!.toUpperCase()}${list.slice(1)}.`, facts);
}

function readWanted(given: Given): Wanted {
  const language = given.value('lang') ?? 'en';
  try {
    new Intl.Locale(language);
  } catch {
    throw new UsageError(`--lang must be a language as en or pt-BR, not “${language}”.`);
  }
  const most = readSize(given, 'max-bytes');
  if (given.has('parts') && most === null)
    throw new UsageError('--parts needs --max-bytes, which says how large a part may be.');
  return {
    finish: (given.value('finish') ?? 'daylight') as Finish,
    paper: (given.value('paper') ?? 'auto') as Paper,
    dpi: readCount(given, 'dpi'),
    outline: readOutline(given.value('outline')),
    quarterTurns: readTurns(given),
    most,
    language,
  };
}

/** Print in a language that there is no data for is read as English. */
function readerFor(given: Given, language: string, files: number): Promise<Reader> {
  const base = new Intl.Locale(language).language;
  return openReader({
    language: isReadLanguage(base) ? base : 'en',
    threads: Math.max(1, Math.min(readCount(given, 'jobs') ?? availableParallelism(), files)),
    workerFile: path.join(import.meta.dirname, 'readerWorker.mjs'),
  });
}

/** Parts are numbered in their names: set4.pdf becomes set4-1.pdf, set4-2.pdf. None is written where one of them may not be. */
async function writeParts(
  parts: readonly BoundFilePart<Uint8Array>[],
  output: Output,
  given: Given,
  inputs: readonly string[],
): Promise<void> {
  const [first, ...more] = parts;
  if (more.length === 0) return writeOutput(output, first!.file);
  if (output.file === '-')
    throw new UsageError('Several parts cannot go to standard output. Name a file, and its name is numbered.');
  const { dir, name, ext } = path.parse(output.shownAs);
  const outputs = await Promise.all(
    parts.map((_, k) => checkOutput(path.join(dir, `${name}-${k + 1}${ext}`), inputs, given)),
  );
  for (const [k, part] of parts.entries()) await writeOutput(outputs[k]!, part.file);
}

async function boundWithin(
  sources: readonly UsableSource[],
  crew: PageCrew,
  wanted: Wanted,
  {
    title,
    author,
    inParts,
  }: { readonly title: string; readonly author: string | undefined; readonly inParts: boolean },
): Promise<readonly BoundFilePart<Uint8Array>[]> {
  const { paper, most, language } = wanted;
  const { files } = await bindWithin(
    {
      pages: sources.length,
      code: async (page, coding) => {
        const { source, first } = sources[page]!;
        if ('pdf' in source)
          return { page: { content: source }, bytes: Math.round(source.pdf.length / source.pagesTaken), as: null };
        if (coding === FINEST) return { page: first!.page, bytes: bytesOf(first!.coded), as: first!.coded.coding };
        const coarser = await rendered(
          crew,
          taskFor(source.file, wanted, { outline: first!.recipe, coding, toRead: false }),
        );
        return {
          page: { content: coarser.page, words: first!.words },
          bytes: bytesOf(coarser.page),
          as: coarser.page.coding,
        };
      },
      assemble: async (pages: readonly BoundPage[], part) => {
        const file = await bindPdf(pages, {
          title: part === null ? title : `${title} (part ${part.number} of ${part.of})`,
          paper,
          language,
          ...(author === undefined ? {} : { author }),
        });
        return { file, bytes: file.length };
      },
    },
    most,
    inParts,
  );
  return files;
}

/** A photo's page in the finest coding: made first of all, to see whether it can be used. */
interface FirstPage {
  readonly page: BoundPage;
  readonly coded: CodedPage;
  /** What was found then, so that a coarser coding need not look again. */
  readonly recipe: Recipe;
  readonly missing: MissingPart | null;
  readonly words: readonly PageWord[];
}
interface UsableSource {
  readonly source: Source;
  readonly first: FirstPage | null;
}
/** The pages of one input, and what is to be said of it. */
interface UsableInput {
  readonly sources: readonly UsableSource[];
  readonly note: string | null;
}

const taskFor = (
  file: string,
  { finish, paper, dpi, quarterTurns }: Wanted,
  {
    outline,
    coding,
    toRead,
  }: { readonly outline: RenderTask['outline']; readonly coding: Coding; readonly toRead: boolean },
): RenderTask => ({
  task: 'render',
  file,
  finish,
  outline,
  quarterTurns,
  encode: { as: 'coded', coding, paper, dpi, toRead },
});

async function renderFirst(file: string, crew: PageCrew, wanted: Wanted, reader: Reader | null): Promise<FirstPage> {
  const task = taskFor(file, wanted, { outline: wanted.outline, coding: FINEST, toRead: reader !== null });
  const { page, recipe, missing, toRead } = await rendered(crew, task);
  const words = reader === null || toRead === null ? [] : await reader.words(toRead);
  return { page: { content: page, words }, coded: page, recipe, missing, words };
}

async function rendered(crew: PageCrew, task: RenderTask): Promise<Extract<RenderAnswer, { as: 'coded' }>> {
  const answer = await crew.render(task);
  if (answer.as !== 'coded') throw new Error('bind: a coded page was asked for');
  return answer;
}

async function usableSources(
  inputs: Inputs['inputs'],
  crew: PageCrew,
  wanted: Wanted,
  reader: Reader | null,
  quiet: boolean,
): Promise<{ sources: UsableSource[]; failed: boolean }> {
  const progress = showProgress(inputs.length, quiet);
  const found = await Promise.all(
    inputs.map(async (input) => ('error' in input ? input.error : pagesOf(input, crew, wanted, reader, progress))),
  );
  progress.clear();
  for (const each of found) {
    if (each instanceof Error) process.stderr.write(`${each.message}\n`);
    else say(each.note);
  }
  return {
    sources: found.flatMap((each) => (each instanceof Error ? [] : each.sources)),
    failed: found.some((each) => each instanceof Error),
  };
}

/** The pages of one input, or what is wrong with it. */
async function pagesOf(
  { file, shownAs }: Input,
  crew: PageCrew,
  wanted: Wanted,
  reader: Reader | null,
  progress: Progress,
): Promise<UsableInput | FotoplanError> {
  try {
    const pdf = await readPdf(file);
    if (pdf === null) {
      const first = await renderFirst(file, crew, wanted, reader);
      return { sources: [{ source: { file }, first }], note: missingNote(shownAs, first.missing) };
    }
    const { pdf: opened, forbids } = await openForeignPdf(pdf, `“${path.basename(file)}”`);
    const sources = opened.getPageIndices().map((pdfPage, _, all) => ({
      source: { pdf, pdfPage, quarterTurns: wanted.quarterTurns, pagesTaken: all.length },
      first: null,
    }));
    return { sources, note: forbidsNote(shownAs, forbids) };
  } catch (error) {
    return fromWireError(toWireError(error, `“${shownAs}” could not be worked on. Try another photo.`));
  } finally {
    progress.step();
  }
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

/** Readers allow so many bytes before the header (ISO 32000-1, annex H.3, note 13). */
const HEADER_WITHIN_BYTES = 1024;

/** The file's bytes where it is a PDF, else null: photos are read by the worker threads. */
async function readPdf(file: string): Promise<Uint8Array | null> {
  const handle = await open(file).catch(() => null);
  if (handle === null) return null; // the worker says what is wrong
  try {
    const { buffer } = await handle.read({ buffer: Buffer.alloc(HEADER_WITHIN_BYTES), position: 0 });
    return buffer.includes('%PDF-', 0, 'latin1') ? await readFile(file) : null;
  } finally {
    await handle.close();
  }
}

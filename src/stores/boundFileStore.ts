import { nanoid } from 'nanoid';
import { create } from 'zustand';
import { bytesOf, type CodedPage } from '../../core/compress/codePage';
import { bindWithin, type WeighedPage } from '../../core/compress/bindWithin';
import { FotoplanError } from '../../core/errors';
import { boundPages, type HandIn, type Page } from '../../core/handIn/handIn';
import { madeFromKey } from '../../core/handIn/madeFrom';
import type { BindOptions } from '../../core/pdf/bindPdf';
import { isUntouched, type Recipe } from '../../core/recipe/recipe';
import { loadOriginal } from '../pictures/loadOriginal';
import type { StoredBoundFile } from '../storage/localDatabase';
import type { PageForFile } from '../workers/pageWorkerProtocol';
import { longWorker, previewWorker, secondWorker } from '../workers/pageWorkers';
import { fileNameOf } from './fileName';
import { useProfileStore } from './profileStore';
import { asWritten } from './handInStore';
import { services } from './services';
import { wakeSync } from './syncStore';
import { pageWords } from './wordsStore';

export type Binding =
  | { readonly state: 'idle' }
  | { readonly state: 'binding'; readonly share: number; readonly stop: () => void }
  /** parts: how many numbered files it would take; 0 where that is no way on. */
  | { readonly state: 'failed'; readonly problem: string; readonly parts: number };

interface BoundFileState {
  readonly files: Readonly<Record<string, StoredBoundFile>>;
  readonly bindings: Readonly<Record<string, Binding>>;
}

export const useBoundFileStore = create<BoundFileState>(() => ({ files: {}, bindings: {} }));

const setBindingState = (handInId: string, binding: Binding): void => useBoundFileStore.setState((s) => ({ bindings: { ...s.bindings, [handInId]: binding } }));

/** The file as this device has it, then a newer one where another screen has bound it since. */
export async function loadBoundFile(handInId: string): Promise<void> {
  const { db } = await services();
  const file = await db.get('boundFiles', handInId);
  if (file !== undefined) show(file);
  // without a connection what is here is what there is
  await fetchNewer(handInId, file?.boundAtMs ?? 0).catch(() => undefined);
}

async function fetchNewer(handInId: string, thanMs: number): Promise<void> {
  const { db, api } = await services();
  const [newest] = await api.boundFiles(handInId);
  const { madeFrom, pageBytes, codings } = newest?.facts ?? {};
  if (newest === undefined || newest.boundAtMs <= thanMs || madeFrom === undefined || pageBytes === undefined || codings === undefined) return;
  const waiting = await db.getAll('outbox');
  if (waiting.some((item) => item.kind === 'boundFile' && item.handInId === handInId)) return;
  const known = useBoundFileStore.getState().files[handInId];
  if (known?.sha256 === newest.sha256) return;
  const { id, name, sha256, boundAtMs } = newest;
  const file: StoredBoundFile = { handInId, id, name, blob: await api.fetchBoundFile(id), sha256, parts: [], pageBytes, codings, boundAtMs, madeFrom };
  await db.put('boundFiles', file).catch(() => undefined);
  show(file);
}

const show = (file: StoredBoundFile): void => useBoundFileStore.setState((s) => ({ files: { ...s.files, [file.handInId]: file } }));

/** Coded pages by what they were made from, so that binding again costs only what changed; the oldest go first. */
const codedPages = new Map<string, CodedPage>();
const MOST_KEPT_BYTES = 60_000_000;

async function codedPage(page: Page, handIn: HandIn, coding: number, tell: (share: number) => void): Promise<CodedPage> {
  const key = JSON.stringify([page.originalId, page.pdfPage, { ...page.recipe, marks: [] }, handIn.paper, coding]);
  const kept = codedPages.get(key);
  if (kept !== undefined) return kept;
  const coded = await onFreeWorker(async (worker) => worker.run({ kind: 'code', original: await loadOriginal(page), recipe: page.recipe, coding, paper: handIn.paper }, tell));
  codedPages.set(key, coded);
  let bytes = [...codedPages.values()].reduce((sum, each) => sum + bytesOf(each), 0);
  for (const [oldest, each] of codedPages) {
    if (bytes <= MOST_KEPT_BYTES) break;
    bytes -= bytesOf(each);
    codedPages.delete(oldest);
  }
  return coded;
}

/** One page a worker at a time, so that one page each is all there is in memory. */
const free = [longWorker, secondWorker];
const waiting: (() => void)[] = [];

async function onFreeWorker<T>(work: (worker: typeof longWorker) => Promise<T>): Promise<T> {
  while (free.length === 0) await new Promise<void>((resolve) => waiting.push(resolve));
  const worker = free.pop()!;
  try {
    return await work(worker);
  } finally {
    free.push(worker);
    waiting.shift()?.();
  }
}

/** What a PDF's own pages share: how many of them go into the file. */
const takenAsIs = ({ pdfPage, recipe }: { readonly pdfPage: number | null; readonly recipe: Recipe }): boolean => pdfPage !== null && isUntouched(recipe);

/** Each PDF comes from the store once: pages with the very same blob share what they have in common. */
function pdfLoader(): (page: Page) => Promise<Blob> {
  const blobs = new Map<string, Promise<Blob>>();
  return (page) => {
    const blob = blobs.get(page.originalId) ?? loadOriginal(page).then((original) => original.blob);
    blobs.set(page.originalId, blob);
    return blob;
  };
}

/** What binding hands to each of its pages. */
interface Binder {
  readonly loadPdf: (page: Page) => Promise<Blob>;
  readonly tell: (share: number) => void;
}

async function pageForFile(page: Page, handIn: HandIn, coding: number, { loadPdf, tell }: Binder): Promise<PageForFile> {
  const { recipe } = page;
  const { searchable, showMarks } = handIn.binding;
  const marks = showMarks ? recipe.marks : [];
  if (takenAsIs(page)) {
    const pagesTaken = boundPages(handIn).filter((other) => other.originalId === page.originalId && takenAsIs(other)).length;
    return { content: { blob: await loadPdf(page), pdfPage: page.pdfPage!, quarterTurns: recipe.quarterTurns, pagesTaken }, kind: recipe.kind, words: [], marks };
  }
  const content = await codedPage(page, handIn, coding, tell);
  return { content, kind: recipe.kind, words: searchable ? await pageWords(page) : [], marks };
}

function weigh(page: PageForFile): WeighedPage<PageForFile> {
  const { content } = page;
  return 'blob' in content ? { page, bytes: Math.round(content.blob.size / content.pagesTaken), fixed: true } : { page, bytes: bytesOf(content), fixed: false };
}

function optionsFor(handIn: HandIn, part: { number: number; of: number } | null): Omit<BindOptions, 'font'> {
  const { marginMm, sameWidth, cover, author } = handIn.binding;
  const profile = useProfileStore.getState();
  const name = [profile.first, profile.family].filter((each) => each !== '').join(' ');
  const title = part === null ? handIn.title : `${handIn.title} (part ${part.number} of ${part.of})`;
  const lines = [
    ['Name', name],
    ['Number', profile.number],
    ['Date', new Date().toLocaleDateString(undefined, { dateStyle: 'long' })],
  ] as const;
  return {
    title,
    paper: handIn.paper,
    marginMm,
    sameWidth,
    ...(author && name !== '' ? { author: name } : {}),
    ...(cover ? { cover: { title, lines: lines.filter(([, value]) => value !== '') } } : {}),
  };
}

/** Starts the workers that bind, so that binding can begin at once. */
export function readyToBind(): void {
  longWorker.wake();
  secondWorker.wake();
}

/** Makes the PDF on this device, by the settings as they are once the last tap is written, keeps it, and sends it up behind everything else. */
export async function bindHandIn(shown: HandIn, inParts = false): Promise<void> {
  const stopper = new AbortController();
  const { signal } = stopper;
  const tell = (share: number): void => setBindingState(shown.id, { state: 'binding', share, stop: () => stopper.abort() });
  const stopped = new Promise<never>((_, reject) => signal.addEventListener('abort', () => reject(new FotoplanError('CANCELLED', 'Binding was stopped. Nothing was changed.')), { once: true }));
  // nobody may be waiting for it
  stopped.catch(() => undefined);
  tell(0);
  previewWorker.rest();
  try {
    const handIn = await asWritten(shown);
    const pages = boundPages(handIn);
    const loadPdf = pdfLoader();
    const work = bindWithin(
      {
        pages: pages.length,
        code: async (i, coding, tellShare) => {
          if (signal.aborted) throw new FotoplanError('CANCELLED', 'Binding was stopped. Nothing was changed.');
          return weigh(await pageForFile(pages[i]!, handIn, coding, { loadPdf, tell: tellShare }));
        },
        assemble: async (bound: readonly PageForFile[], part) => {
          const file = await longWorker.run({ kind: 'assemble', options: optionsFor(handIn, part), pages: bound });
          return { file, bytes: file.pdf.size };
        },
        onProgress: (share) => signal.aborted || tell(share),
      },
      handIn.binding.maxBytes,
      inParts,
    );
    const { files, pageBytes, codings } = await Promise.race([work, stopped]);
    await keep(handIn, { ...files[0]!.file, parts: files.length > 1 ? files.map(({ file }) => file.pdf) : [], pageBytes, codings });
    setBindingState(shown.id, { state: 'idle' });
    wakeSync();
  } catch (error) {
    setBindingState(shown.id, failureOf(error));
  }
}

function failureOf(error: unknown): Binding {
  if (!(error instanceof FotoplanError)) return { state: 'failed', problem: 'The file could not be kept on this device. Free some space and bind again.', parts: 0 };
  return error.code === 'CANCELLED' ? { state: 'idle' } : { state: 'failed', problem: error.message, parts: Number(error.facts.parts ?? 0) };
}

async function keep(handIn: HandIn, { pdf, ...made }: { readonly pdf: Blob } & Pick<StoredBoundFile, 'sha256' | 'parts' | 'pageBytes' | 'codings'>): Promise<void> {
  const file: StoredBoundFile = { handInId: handIn.id, id: nanoid(), name: fileNameOf(handIn), blob: pdf, boundAtMs: Date.now(), madeFrom: madeFromKey(handIn), ...made };
  const { db } = await services();
  const tx = db.transaction(['boundFiles', 'outbox'], 'readwrite');
  await Promise.all([tx.objectStore('boundFiles').put(file), tx.objectStore('outbox').add({ kind: 'boundFile', handInId: handIn.id }), tx.done]);
  show(file);
}

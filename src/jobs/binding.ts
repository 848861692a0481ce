import { createStore, type StoreApi } from 'zustand/vanilla';
import type { ProfileView } from '../../contract/views';
import { bindWithin, type WeighedPage } from '../../core/work/pdf/bindWithin';
import { bytesOf, type CodedPage, type Coding } from '../../core/imaging/layers/codedPage';
import { FotoplanError, toWireError, type WireError } from '../../core/errors';
import { boundPages, type HandIn, type Page } from '../../core/work/hand-in/handIn';
import { madeFromKey } from '../../core/work/hand-in/madeFrom';
import { COVER_LABELS } from '../../core/work/pdf/coverLabels';
import type { BindOptions } from '../../core/work/pdf/bindPdf';
import { isTakenAsIs } from '../../core/work/recipe/recipe';
import type { BoundFile, BoundFiles } from '../data/boundFiles';
import type { Documents } from '../data/documents';
import type { PageForFile } from './jobProtocol';
import type { PageWords } from './pageWords';
import { lookKey } from './pageKey';
import type { Scheduler } from './scheduler';
import type { SmallPictures } from './smallPictures';

export type BindingState =
  | { readonly state: 'idle' }
  | { readonly state: 'binding'; readonly share: number; readonly stop: () => void }
  /** parts: how many numbered files it would take; 0 where that is no way on. */
  | { readonly state: 'failed'; readonly problem: WireError; readonly parts: number };

export interface BindRequest {
  /** Several numbered files, where one does not fit the limit. */
  readonly inParts?: boolean;
  /** What the file is called, by the hand-in as it is then. */
  readonly nameOf: (handIn: HandIn) => string;
  /** For the cover sheet and the author. */
  readonly profile: ProfileView;
}

export interface Binding {
  readonly state: StoreApi<{ readonly bindings: Readonly<Record<string, BindingState>> }>;
  /** Starts the workers that bind, so that binding can begin at once. */
  ready(): void;
  /** Makes the PDF on this device, by the settings as they are once the last tap is written, keeps it, and sends it up behind everything else. */
  bind(shown: HandIn, request: BindRequest): Promise<void>;
}

export interface BindingOptions {
  readonly documents: Documents;
  readonly boundFiles: BoundFiles;
  readonly small: SmallPictures;
  readonly words: PageWords;
  readonly scheduler: Scheduler;
  readonly now: () => number;
  readonly newId: () => string;
}

/** Coded pages stay at hand up to this much, so that binding again costs only what changed. */
const MAX_CODED_BYTES = 60_000_000;

const stopError = (): FotoplanError => new FotoplanError('CANCELLED', 'Binding was stopped. Nothing was changed.');

export function createBinding({ documents, boundFiles, small, words, scheduler, now, newId }: BindingOptions): Binding {
  const state = createStore<{ readonly bindings: Readonly<Record<string, BindingState>> }>(() => ({ bindings: {} }));
  const show = (handInId: string, binding: BindingState): void =>
    state.setState((s) => ({ bindings: { ...s.bindings, [handInId]: binding } }));
  /** By what they were made from, the oldest first. */
  const codedPages = new Map<string, CodedPage>();

  async function codedPage(
    page: Page,
    handIn: HandIn,
    coding: Coding,
    signal: AbortSignal,
    tell: (share: number) => void,
  ): Promise<CodedPage> {
    const key = `${lookKey(page, page.recipe)} ${handIn.paper} ${JSON.stringify(coding)}`;
    const kept = codedPages.get(key);
    if (kept !== undefined) return kept;
    const original = await small.whole(page);
    const coded = await scheduler.run(
      { kind: 'code', original, recipe: page.recipe, coding, paper: handIn.paper },
      { priority: 'soon', signal, onShare: tell },
    );
    codedPages.set(key, coded);
    let bytes = [...codedPages.values()].reduce((sum, each) => sum + bytesOf(each), 0);
    for (const [oldest, each] of codedPages) {
      if (bytes <= MAX_CODED_BYTES) break;
      bytes -= bytesOf(each);
      codedPages.delete(oldest);
    }
    return coded;
  }

  /** Each PDF comes from the store once: pages with the very same blob share what they have in common. */
  function pdfLoader(): (page: Page) => Promise<Blob> {
    const blobs = new Map<string, Promise<Blob>>();
    return (page) => {
      const blob = blobs.get(page.originalId) ?? small.whole(page).then((original) => original.blob);
      blobs.set(page.originalId, blob);
      return blob;
    };
  }

  async function pageForFile(
    page: Page,
    handIn: HandIn,
    coding: Coding,
    {
      loadPdf,
      signal,
      tell,
    }: {
      readonly loadPdf: (page: Page) => Promise<Blob>;
      readonly signal: AbortSignal;
      readonly tell: (share: number) => void;
    },
  ): Promise<PageForFile> {
    const { recipe } = page;
    const { searchable, language, showMarks } = handIn.binding;
    const marks = showMarks ? recipe.marks : [];
    if (isTakenAsIs(page)) {
      const pagesTaken = boundPages(handIn).filter(
        (other) => other.originalId === page.originalId && isTakenAsIs(other),
      ).length;
      return {
        content: { blob: await loadPdf(page), pdfPage: page.pdfPage!, quarterTurns: recipe.quarterTurns, pagesTaken },
        kind: recipe.kind,
        words: [],
        marks,
      };
    }
    const content = await codedPage(page, handIn, coding, signal, tell);
    return { content, kind: recipe.kind, words: searchable ? await words.of(page, language) : [], marks };
  }

  async function keep(
    handIn: HandIn,
    name: string,
    { pdf, ...made }: { readonly pdf: Blob } & Pick<BoundFile, 'sha256' | 'parts' | 'pageBytes' | 'codings'>,
  ): Promise<void> {
    await boundFiles.keep({
      handInId: handIn.id,
      id: newId(),
      name,
      blob: pdf,
      boundAtMs: now(),
      madeFrom: madeFromKey(handIn),
      ...made,
    });
  }

  return {
    state,
    ready: () => scheduler.wake(),
    async bind(shown, { inParts = false, nameOf, profile }) {
      const stopper = new AbortController();
      const { signal } = stopper;
      const tell = (share: number): void => show(shown.id, { state: 'binding', share, stop: () => stopper.abort() });
      const stopped = new Promise<never>((_, reject) =>
        signal.addEventListener('abort', () => reject(stopError()), { once: true }),
      );
      // nobody may be waiting for it
      stopped.catch(() => undefined);
      tell(0);
      scheduler.rest();
      try {
        const handIn = await documents.asWritten(shown);
        const pages = boundPages(handIn);
        const loadPdf = pdfLoader();
        const work = bindWithin(
          {
            pages: pages.length,
            code: async (i, coding, tellShare) => {
              if (signal.aborted) throw stopError();
              return weigh(await pageForFile(pages[i]!, handIn, coding, { loadPdf, signal, tell: tellShare }));
            },
            assemble: async (bound: readonly PageForFile[], part) => {
              const file = await scheduler.run(
                { kind: 'assemble', options: optionsFor(handIn, profile, part), pages: bound },
                { priority: 'soon', signal },
              );
              return { file, bytes: file.pdf.size };
            },
            onProgress: (share) => signal.aborted || tell(share),
          },
          handIn.binding.maxBytes,
          inParts,
        );
        const { files, pageBytes, codings } = await Promise.race([work, stopped]);
        await keep(handIn, nameOf(handIn), {
          ...files[0]!.file,
          parts: files.length > 1 ? files.map(({ file }) => file.pdf) : [],
          pageBytes,
          codings,
        });
        show(shown.id, { state: 'idle' });
      } catch (error) {
        show(shown.id, failureOf(error));
      }
    },
  };
}

function weigh(page: PageForFile): WeighedPage<PageForFile> {
  const { content } = page;
  return 'blob' in content
    ? { page, bytes: Math.round(content.blob.size / content.pagesTaken), as: null }
    : { page, bytes: bytesOf(content), as: content.coding };
}

function optionsFor(
  handIn: HandIn,
  profile: ProfileView,
  part: { number: number; of: number } | null,
): Omit<BindOptions, 'font'> {
  const { marginMm, sameWidth, cover, author, language } = handIn.binding;
  const name = [profile.first, profile.family].filter((each) => each !== '').join(' ');
  const title = part === null ? handIn.title : `${handIn.title} (part ${part.number} of ${part.of})`;
  const labels = COVER_LABELS[language];
  const lines = [
    [labels.name, name],
    [labels.number, profile.number],
    [labels.date, new Date().toLocaleDateString(language === 'ar' ? 'en' : language, { dateStyle: 'long' })],
  ] as const;
  return {
    title,
    language,
    paper: handIn.paper,
    marginMm,
    sameWidth,
    ...(author && name !== '' ? { author: name } : {}),
    ...(cover ? { cover: { title, pagesLabel: labels.pages, lines: lines.filter(([, value]) => value !== '') } } : {}),
  };
}

function failureOf(error: unknown): BindingState {
  const problem = toWireError(error, 'The file could not be made. Reload, then bind again; your pages are kept.');
  return problem.code === 'CANCELLED'
    ? { state: 'idle' }
    : { state: 'failed', problem, parts: Number(problem.facts.parts ?? 0) };
}

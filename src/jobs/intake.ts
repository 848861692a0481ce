import { createStore, type StoreApi } from 'zustand/vanilla';
import { FotoplanError, toWireError, type WireError } from '../../core/errors';
import { shownPages } from '../../core/work/hand-in/handIn';
import type { PageSource } from '../../core/work/hand-in/operation';
import { splitTiff } from '../../core/work/photo/splitTiff';
import { wholePhotoRecipe } from '../../core/work/recipe/plainRecipe';
import type { PageKind } from '../../core/work/paper/pageKind';
import type { Documents } from '../data/documents';
import { inNumberedOrder } from './inNumberedOrder';
import { newPageRecipe } from './newPageRecipe';
import type { Scheduler } from './scheduler';

/** A file on its way to being a page. */
export interface IntakeItem {
  readonly id: string;
  readonly handInId: string;
  readonly fileName: string;
  readonly state: 'waiting' | 'working' | 'failed' | 'noted';
  readonly problem: WireError | null;
  /** What can be done about it at once: taking it in after all, or laying what was added in the order of shooting. */
  readonly offer: { readonly does: 'addAgain' | 'orderByTime'; readonly act: () => void } | null;
}

/** What stayed behind of a folder or zip. */
export interface LeftOut {
  /** Name of the folder or zip. */
  readonly from: string;
  readonly names: readonly string[];
}

export interface IntakeOptions {
  readonly kind?: PageKind;
  /** The page they come to stand behind; left out: the end. */
  readonly afterPageId?: string;
  /** Take in even what is there already. */
  readonly evenTwice?: boolean;
  /** What stayed behind of the folders that they come from. */
  readonly leftOut?: readonly LeftOut[];
}

/** Told in every language by its facts. */
const leftOutProblem = ({ from, names }: LeftOut): WireError => ({
  code: names.length === 0 ? 'NO_PHOTOS_INSIDE' : 'FILES_LEFT_OUT',
  message: '',
  facts: { name: from, count: names.length, first: names[0] ?? '' },
});
/** A server takes no longer one; the end of a path tells more than its beginning. */
const MOST_NAME_LENGTH = 255;

/** Files chosen together: one step to undo. */
interface Batch {
  readonly group: string;
  /** Pages made of them; times only where the photo itself tells: a file's own says when it was copied. */
  readonly added: { readonly pageId: string; readonly fileName: string; readonly takenAtMs: number | null }[];
}

export interface Intake {
  readonly state: StoreApi<{ readonly items: readonly IntakeItem[] }>;
  /**
   * Takes files in, one after another, in the order their names are numbered or else in the order given. Each is safe on this
   * device before its paper is looked for. A bad one is named and costs the others nothing; one that is there already is pointed out.
   */
  take(handInId: string, chosen: readonly File[], options?: IntakeOptions): Promise<void>;
  /** Notes a file that turned out unusable after it had been taken in. */
  reportUnusable(handInId: string, fileName: string, problem: WireError): void;
  dismiss(id: string): void;
}

export interface IntakeServices {
  readonly documents: Documents;
  readonly scheduler: Scheduler;
  readonly newId: () => string;
}

/** The name of one page of a file of several: scan.tif becomes scan-1.tif. */
const numbered = (fileName: string, number: number): string => fileName.replace(/(\.[^.]*)?$/, `-${number}$1`);

/** The files within a file. */
interface Inside {
  readonly files: readonly File[];
  readonly leftOut: LeftOut;
  readonly spoilt: readonly { readonly name: string; readonly problem: WireError }[];
}

/** What a zip holds, or the pages of a TIFF of several, as files of their own; null for any other file. */
async function filesInside(file: File, bytes: Uint8Array): Promise<Inside | null> {
  const { name, type, lastModified } = file;
  if (type === 'application/zip' || /\.zip$/i.test(name)) return unzipped(bytes, name);
  const sheets = splitTiff(bytes, name);
  if (sheets === null) return null;
  const files = sheets.map((sheet, k) => new File([sheet], numbered(name, k + 1), { type, lastModified }));
  return { files, leftOut: { from: name, names: [] }, spoilt: [] };
}

async function unzipped(bytes: Uint8Array, name: string): Promise<Inside> {
  const { zippedPhotos } = await import('../../core/work/bundle/zippedPhotos');
  const { photos, leftOut, unpack } = zippedPhotos(bytes, name);
  const files: File[] = [];
  const spoilt: Inside['spoilt'][number][] = [];
  for (const path of photos) {
    try {
      // when it was taken is not known
      files.push(new File([unpack(path)], path, { lastModified: 0 }));
    } catch (error) {
      spoilt.push({ name: path, problem: toWireError(error, '') });
    }
  }
  return { files, leftOut: { from: name, names: leftOut }, spoilt };
}

export function createIntake({ documents, scheduler, newId }: IntakeServices): Intake {
  const state = createStore<{ readonly items: readonly IntakeItem[] }>(() => ({ items: [] }));
  /** Files come in one after another, so that pages stand in their order. */
  let queue: Promise<void> = Promise.resolve();

  const patch = (id: string, changes: Partial<IntakeItem>): void =>
    state.setState((s) => ({ items: s.items.map((item) => (item.id === id ? { ...item, ...changes } : item)) }));
  const dismiss = (id: string): void => state.setState((s) => ({ items: s.items.filter((item) => item.id !== id) }));
  const begin = (handInId: string, fileName: string): IntakeItem => ({
    id: newId(),
    handInId,
    fileName: fileName.slice(-MOST_NAME_LENGTH),
    state: 'waiting',
    problem: null,
    offer: null,
  });
  const handInOf = (handInId: string) => documents.state.getState().handIns[handInId];

  const note = (handInId: string, fileName: string, as: Partial<IntakeItem>): void =>
    state.setState((s) => ({ items: [...s.items, { ...begin(handInId, fileName), ...as }] }));
  const noteLeftOut = (handInId: string, leftOut: LeftOut): void =>
    note(handInId, leftOut.from, { state: 'noted', problem: leftOutProblem(leftOut) });

  /** The number of the page that shows this very file, or 0. */
  const placeOfTwin = (handInId: string, originalId: string): number => {
    const handIn = handInOf(handInId);
    return handIn === undefined ? 0 : shownPages(handIn).findIndex((page) => page.originalId === originalId) + 1;
  };

  function take(handInId: string, chosen: readonly File[], options: IntakeOptions = {}): Promise<void> {
    for (const each of options.leftOut ?? []) noteLeftOut(handInId, each);
    const files = inNumberedOrder(chosen);
    const items = files.map((file) => begin(handInId, file.name));
    state.setState((s) => ({ items: [...s.items, ...items] }));
    const batch: Batch = { group: newId(), added: [] };
    queue = queue.then(async () => {
      await takeEach(items, files, options, batch);
      offerOrder(handInId, batch.added);
    });
    return queue;
  }

  /** Pickers hand photos over in any order; whether that was meant, only the person knows. */
  function offerOrder(handInId: string, added: Batch['added']): void {
    if (added.some(({ takenAtMs }) => takenAtMs === null)) return;
    if (added.every(({ takenAtMs }, i) => i === 0 || added[i - 1]!.takenAtMs! <= takenAtMs!)) return;
    const first = added.reduce((a, b) => (b.takenAtMs! < a.takenAtMs! ? b : a));
    const item = begin(handInId, first.fileName);
    const act = (): void => {
      dismiss(item.id);
      void documents.dispatch({ kind: 'sortByTimeTaken', handInId, pageIds: added.map(({ pageId }) => pageId) });
    };
    const problem: WireError = { code: 'PHOTOS_OUT_OF_ORDER', message: '', facts: { name: first.fileName } };
    state.setState((s) => ({
      items: [...s.items, { ...item, state: 'noted', problem, offer: { does: 'orderByTime', act } }],
    }));
  }

  /** @returns the last page made of them, where they come to stand behind one; or null */
  async function takeEach(
    items: readonly IntakeItem[],
    files: readonly File[],
    options: IntakeOptions,
    batch: Batch,
  ): Promise<string | null> {
    let { afterPageId } = options;
    for (const [i, file] of files.entries()) {
      const behind = afterPageId === undefined ? {} : { afterPageId };
      const last = await takeOne(items[i]!, file, { ...options, ...behind }, batch);
      if (afterPageId !== undefined && last !== null) afterPageId = last;
    }
    return afterPageId ?? null;
  }

  /** @returns the last page made of it, or null */
  async function takeOne(
    { id, handInId, fileName }: IntakeItem,
    file: File,
    options: IntakeOptions,
    batch: Batch,
  ): Promise<string | null> {
    patch(id, { state: 'working' });
    try {
      // read now: a file picked from a card or a cloud folder may be gone later
      const bytes = await file.arrayBuffer().catch((cause: unknown) => {
        throw new FotoplanError(
          'PHOTO_GONE',
          `“${fileName}” cannot be read from where it is. Copy it to this device first.`,
          { name: fileName },
          { cause },
        );
      });
      const inside = await filesInside(file, new Uint8Array(bytes));
      if (inside !== null) {
        const items = inside.files.map(({ name }) => begin(handInId, name));
        state.setState((s) => ({ items: s.items.flatMap((item) => (item.id === id ? items : [item])) }));
        if (inside.leftOut.names.length > 0) noteLeftOut(handInId, inside.leftOut);
        for (const { name, problem } of inside.spoilt) note(handInId, name, { state: 'failed', problem });
        return await takeEach(items, inside.files, options, batch);
      }
      const blob = new Blob([bytes], { type: file.type });
      const {
        originalId,
        isPdf,
        pages,
        takenAtMs: told,
        forbids,
      } = await scheduler.run({ kind: 'check', blob, fileName }, { priority: 'visible' });
      const twin = options.evenTwice === true ? 0 : placeOfTwin(handInId, originalId);
      if (twin > 0) {
        const again = (): void => {
          dismiss(id);
          void take(handInId, [file], { ...options, leftOut: [], evenTwice: true });
        };
        patch(id, {
          state: 'noted',
          problem: {
            code: 'PHOTO_TWICE',
            message: `“${fileName}” is page ${twin} already. It was not added again.`,
            facts: { name: fileName, page: twin },
          },
          offer: { does: 'addAgain', act: again },
        });
        return null;
      }
      if (forbids.length > 0)
        note(handInId, fileName, {
          state: 'noted',
          problem: { code: 'PDF_FORBIDS', message: '', facts: { name: fileName, forbids: forbids.join(' ') } },
        });
      let afterPageId = options.afterPageId ?? null;
      const takenAtMs = told ?? (file.lastModified > 0 ? file.lastModified : null);
      for (const [pdfPage, { width, height }] of pages.entries()) {
        const source: PageSource = isPdf
          ? { originalId, fileName, width, height, pdfPage, recipe: wholePhotoRecipe(width, height, 'asshot') }
          : {
              originalId,
              fileName,
              width,
              height,
              recipe: newPageRecipe(handInOf(handInId), width, height, options.kind ?? 'sheet'),
            };
        const pageId = newId();
        // the photo comes with its first page
        const original = pdfPage === 0 ? { id: originalId, fileName, blob } : undefined;
        await documents.dispatch(
          {
            kind: 'addPage',
            handInId,
            pageId,
            source: { ...source, ...(takenAtMs === null ? {} : { takenAtMs }) },
            group: batch.group,
            ...(afterPageId === null ? {} : { afterPageId }),
          },
          original,
        );
        batch.added.push({ pageId, fileName, takenAtMs: told });
        if (afterPageId !== null || pages.length > 1) afterPageId = pageId;
      }
      dismiss(id);
      return afterPageId;
    } catch (error) {
      patch(id, {
        state: 'failed',
        problem: toWireError(error, `“${fileName}” could not be added. Try it again.`),
      });
      return null;
    }
  }

  return {
    state,
    take,
    dismiss,
    reportUnusable: (handInId, fileName, problem) => note(handInId, fileName, { state: 'failed', problem }),
  };
}

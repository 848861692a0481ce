import type { StoreApi } from 'zustand/vanilla';
import { FotoplanError, toWireError, type WireError } from '../../core/errors';
import { boundPages, type HandIn, type Page } from '../../core/work/hand-in/handIn';
import { isPending } from '../../core/work/recipe/recipe';
import type { Command } from '../data/commands/planCommand';
import type { DocumentsState } from '../data/documents';
import type { Originals } from '../data/originals';
import type { Timers } from '../data/timers';
import type { FindResult, SmallPictures as Pictures } from './jobProtocol';
import type { Scheduler } from './scheduler';
import type { SmallPictures } from './smallPictures';

/*
 * Looks for the paper on every page that is still pending, behind whatever the person does. What is pending is written in the
 * recipe, so it goes on after a reload or a flat battery.
 */
export interface Finding {
  /** Begins, and goes on whenever a hand-in changes. */
  start(): void;
  /** Looks at the shots of pages that were found without: before findings were kept. */
  inspect(handIn: HandIn): Promise<void>;
  stop(): void;
}

export interface FindingOptions {
  readonly documents: StoreApi<DocumentsState>;
  readonly dispatch: (command: Command) => Promise<boolean>;
  readonly originals: Originals;
  readonly small: SmallPictures;
  readonly scheduler: Scheduler;
  readonly timers: Timers;
  readonly onUnusable: (handInId: string, fileName: string, problem: WireError) => void;
}

/** The device that took a photo finds its paper; another takes over after so long. */
export const LEASE_MS = 120_000;
const NEVER_SEEN: readonly string[] = ['PHOTO_UNREADABLE', 'PDF_UNREADABLE'];
const isUnreadable = (error: unknown): error is FotoplanError =>
  error instanceof FotoplanError && NEVER_SEEN.includes(error.code);

export function createFinding({
  documents,
  dispatch,
  originals,
  small,
  scheduler,
  timers,
  onUnusable,
}: FindingOptions): Finding {
  /** Shots under way, waited for or given up until the next start, each by its page and original. */
  const taken = new Set<string>();
  let unsubscribe: (() => void) | null = null;

  const pendingPages = (): { handInId: string; page: Page }[] =>
    Object.values(documents.getState().handIns)
      .filter(({ removedAtMs }) => removedAtMs === null)
      .flatMap(({ id: handInId, pages }) =>
        pages.filter((page) => page.removedAtMs === null && isPending(page.recipe)).map((page) => ({ handInId, page })),
      );

  function findAll(): void {
    for (const { handInId, page } of pendingPages()) {
      const key = `${page.id} ${page.originalId}`;
      if (taken.has(key)) continue;
      taken.add(key);
      void begin(handInId, page);
    }
  }

  async function begin(handInId: string, page: Page): Promise<void> {
    if (await originals.isFromHere(page.originalId)) return findOn(handInId, page);
    timers.set(LEASE_MS, () => {
      const now = documents.getState().handIns[handInId]?.pages.find(({ id }) => id === page.id);
      if (now !== undefined && now.originalId === page.originalId && isPending(now.recipe)) void findOn(handInId, now);
    });
  }

  async function findOn(handInId: string, page: Page): Promise<void> {
    const { kind: pageKind, finish } = page.recipe;
    const { id: pageId, originalId } = page;
    const look = async (): Promise<FindResult> => {
      let settle: { resolve: (pictures: Pictures) => void; reject: (error: unknown) => void } | null = null;
      small.expect(page, new Promise<Pictures>((resolve, reject) => (settle = { resolve, reject })));
      return small
        .whole(page)
        .then((original) =>
          scheduler.run(
            { kind: 'find', original, finish, pageKind },
            { priority: 'soon', onPictures: (pictures) => settle!.resolve(pictures) },
          ),
        )
        .finally(() => settle!.reject(new FotoplanError('CANCELLED', 'No pictures were made.')));
    };
    try {
      // a page is given up only when it could not be decoded twice: a busy device fails at times
      const found = await look().catch((error: unknown) => {
        if (!isUnreadable(error)) throw error;
        return look();
      });
      const { width, height, pages } = found;
      await dispatch({
        kind: 'noteFound',
        handInId,
        pageId,
        originalId,
        width,
        height,
        pages: pages.map(({ recipe, verdict }) => ({ recipe, findings: verdict.findings })),
      });
    } catch (error) {
      // only what can never be seen is taken out; everything else (no connection, no memory) may go better at the next start
      if (!isUnreadable(error)) return;
      await dispatch({ kind: 'dropUnreadable', handInId, pageId });
      onUnusable(handInId, page.fileName, toWireError(error, ''));
    }
  }

  const inspecting = new Set<string>();
  async function inspectOne(handInId: string, page: Page): Promise<void> {
    inspecting.add(page.originalId);
    try {
      const { findings } = await scheduler.run(
        { kind: 'inspect', original: await small.whole(page), recipe: page.recipe },
        { priority: 'soon' },
      );
      await dispatch({ kind: 'noteFindings', handInId, pageId: page.id, originalId: page.originalId, findings });
    } catch {
      // it is looked at again the next time; the check says the rest meanwhile
    } finally {
      inspecting.delete(page.originalId);
    }
  }

  return {
    start() {
      unsubscribe ??= documents.subscribe(findAll);
      findAll();
    },
    async inspect(handIn) {
      const unseen = boundPages(handIn).filter(
        (page) =>
          page.findings === null &&
          !isPending(page.recipe) &&
          page.pdfPage === null &&
          !inspecting.has(page.originalId),
      );
      for (const page of unseen) await inspectOne(handIn.id, page);
    },
    stop: () => unsubscribe?.(),
  };
}

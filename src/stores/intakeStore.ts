import { nanoid } from 'nanoid';
import { create } from 'zustand';
import { FotoplanError } from '../../core/errors';
import { shownPages, type HandIn } from '../../core/handIn/handIn';
import type { PageSource } from '../../core/handIn/operation';
import type { PageKind, Recipe } from '../../core/recipe/recipe';
import { pendingRecipe, usualFinish, wholePhotoRecipe } from '../../core/recipe/plainRecipe';
import { longWorker } from '../workers/pageWorkers';
import { inNumberedOrder } from '../photos/inNumberedOrder';
import { useHandInStore } from './handInStore';
import { addPage } from './pageActions';

/** A file on its way to being a page. */
export interface Intake {
  readonly id: string;
  readonly handInId: string;
  readonly fileName: string;
  readonly state: 'waiting' | 'working' | 'failed' | 'twice';
  readonly problem: string | null;
  /** Takes it in after all. */
  readonly again: (() => void) | null;
}

export const useIntakeStore = create<{ readonly intakes: readonly Intake[] }>(() => ({ intakes: [] }));

const patch = (id: string, changes: Partial<Intake>): void =>
  useIntakeStore.setState((s) => ({ intakes: s.intakes.map((intake) => (intake.id === id ? { ...intake, ...changes } : intake)) }));
const drop = (id: string): void => useIntakeStore.setState((s) => ({ intakes: s.intakes.filter((intake) => intake.id !== id) }));

export const dismissIntake = drop;

const startIntake = (handInId: string, fileName: string): Intake => ({ id: nanoid(), handInId, fileName, state: 'waiting', problem: null, again: null });

/** Notes a file that turned out unusable after it had been taken in. */
export function reportUnusable(handInId: string, fileName: string, problem: string): void {
  useIntakeStore.setState((s) => ({ intakes: [...s.intakes, { ...startIntake(handInId, fileName), state: 'failed', problem }] }));
}

let queue: Promise<void> = Promise.resolve();

export interface TakeInOptions {
  readonly kind?: PageKind;
  /** The page they come to stand behind; left out: the end. */
  readonly afterPageId?: string;
  /** Take in even what is there already. */
  readonly evenTwice?: boolean;
}

/**
 * Takes files in, one after another, in the order their names are numbered or else in the order given. Each is safe on this device before its paper is looked for. A bad one
 * is named and costs the others nothing; one that is there already is pointed out.
 */
export function takeIn(handInId: string, chosen: readonly File[], options: TakeInOptions = {}): Promise<void> {
  const files = inNumberedOrder(chosen);
  const intakes = files.map((file) => startIntake(handInId, file.name));
  useIntakeStore.setState((s) => ({ intakes: [...s.intakes, ...intakes] }));
  let { afterPageId } = options;
  const group = nanoid();
  queue = files.reduce(
    (before, file, i) =>
      before.then(async () => {
        const last = await takeInOne(intakes[i]!, file, { ...options, ...(afterPageId === undefined ? {} : { afterPageId }) }, group);
        if (afterPageId !== undefined && last !== null) afterPageId = last;
      }),
    queue,
  );
  return queue;
}

/** @returns the last page made of it, or null */
async function takeInOne({ id, handInId, fileName }: Intake, file: File, options: TakeInOptions, group: string): Promise<string | null> {
  patch(id, { state: 'working' });
  try {
    // read now: a file picked from a card or a cloud folder may be gone later
    const bytes = await file.arrayBuffer().catch((cause: unknown) => {
      throw new FotoplanError('PHOTO_UNREADABLE', `“${fileName}” cannot be read from where it is. Copy it to this device first.`, {}, { cause });
    });
    const blob = new Blob([bytes], { type: file.type });
    const { originalId, isPdf, pages } = await longWorker.run({ kind: 'check', blob, fileName });
    const twin = options.evenTwice === true ? 0 : placeOfTwin(handInId, originalId);
    if (twin > 0) {
      const again = (): void => {
        drop(id);
        void takeIn(handInId, [file], { ...options, evenTwice: true });
      };
      patch(id, { state: 'twice', problem: `“${fileName}” is page ${twin} already. It was not added again.`, again });
      return null;
    }
    let afterPageId = options.afterPageId ?? null;
    for (const [pdfPage, { width, height }] of pages.entries()) {
      const source: PageSource = isPdf
        ? { originalId, fileName, width, height, pdfPage, recipe: wholePhotoRecipe(width, height, 'asshot') }
        : { originalId, fileName, width, height, recipe: newPageRecipe(handInId, width, height, options.kind ?? 'sheet') };
      const pageId = nanoid();
      await addPage(handInId, pageId, { ...source, ...(file.lastModified > 0 ? { takenAtMs: file.lastModified } : {}) }, { id: originalId, fileName, blob }, { group, ...(afterPageId === null ? {} : { afterPageId }) });
      if (afterPageId !== null || pages.length > 1) afterPageId = pageId;
    }
    drop(id);
    return afterPageId;
  } catch (error) {
    patch(id, { state: 'failed', problem: error instanceof FotoplanError ? error.message : `“${fileName}” could not be added. Try it again.` });
    return null;
  }
}

/** The number of the page that shows this very file, or 0. */
function placeOfTwin(handInId: string, originalId: string): number {
  const handIn = useHandInStore.getState().handIns[handInId];
  return handIn === undefined ? 0 : shownPages(handIn).findIndex((page) => page.originalId === originalId) + 1;
}

/** The recipe of a photo not looked at yet: a new page is lit like the last of its kind in the hand-in; the first as suits it. */
export function newPageRecipe(handInId: string, width: number, height: number, kind: PageKind): Recipe {
  const handIn: HandIn | undefined = useHandInStore.getState().handIns[handInId];
  const before = handIn === undefined ? undefined : shownPages(handIn).findLast((page) => page.recipe.kind === kind && page.pdfPage === null);
  const recipe = pendingRecipe(width, height, before?.recipe.finish ?? usualFinish(kind), kind);
  return before === undefined ? recipe : { ...recipe, light: before.recipe.light };
}

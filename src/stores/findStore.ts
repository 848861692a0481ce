import { nanoid } from 'nanoid';
import { create } from 'zustand';
import { FotoplanError } from '../../core/errors';
import { boundPages, type HandIn, type Page } from '../../core/handIn/handIn';
import type { ShotVerdict } from '../../core/quality/inspectShot';
import { isPending } from '../../core/recipe/recipe';
import { loadOriginal } from '../pictures/loadOriginal';
import { longWorker } from '../workers/pageWorkers';
import { change, useHandInStore } from './handInStore';
import { reportUnusable } from './intakeStore';
import { services } from './services';

/*
 * Looks for the paper on every page that is still pending, one after another, behind whatever the person does. What is pending
 * is written in the recipe, so it goes on after a reload or a flat battery.
 */

interface FindState {
  /** What was seen on each page's shot, by page. */
  readonly verdicts: Readonly<Record<string, { readonly originalId: string; readonly verdict: ShotVerdict }>>;
}

export const useFindStore = create<FindState>(() => ({ verdicts: {} }));

const NEVER_SEEN: readonly string[] = ['PHOTO_UNREADABLE', 'PDF_UNREADABLE'];

/** Pages whose original did not come: tried again at the next start. */
const setAside = new Set<string>();
let running = false;

/** Begins, and goes on whenever a hand-in changes. */
export async function startFinding(): Promise<void> {
  const { db } = await services();
  const kept = await db.getAll('verdicts');
  useFindStore.setState(({ verdicts }) => ({ verdicts: { ...Object.fromEntries(kept.map((v) => [v.pageId, v])), ...verdicts } }));
  useHandInStore.subscribe(() => void findAll());
  await findAll();
}

function nextPending(): { handIn: HandIn; page: Page } | null {
  for (const handIn of Object.values(useHandInStore.getState().handIns)) {
    if (handIn.removed) continue;
    const page = handIn.pages.find((p) => !p.removed && isPending(p.recipe) && !setAside.has(`${p.id} ${p.originalId}`));
    if (page !== undefined) return { handIn, page };
  }
  return null;
}

async function findAll(): Promise<void> {
  if (running) return;
  running = true;
  try {
    for (let next = nextPending(); next !== null; next = nextPending()) await findOn(next.handIn, next.page);
  } finally {
    running = false;
  }
}

async function findOn({ id: handInId }: HandIn, page: Page): Promise<void> {
  try {
    const { kind, finish } = page.recipe;
    const { width, height, pages } = await longWorker.run({ kind: 'find', original: await loadOriginal(page), finish, pageKind: kind });
    const [first, ...others] = pages;
    const { originalId, fileName } = page;
    const kept = await change(() => {
      const now = useHandInStore.getState().handIns[handInId]?.pages.find((p) => p.id === page.id);
      // somebody was quicker: the outline is set, or another shot is in its place
      if (now === undefined || now.originalId !== originalId || !isPending(now.recipe)) return null;
      const recipe = { ...first!.recipe, finish: now.recipe.finish, light: now.recipe.light, quarterTurns: now.recipe.quarterTurns };
      if (width === page.width && height === page.height) return { kind: 'setRecipe', handInId, pageId: page.id, recipe };
      return { kind: 'replaceOriginal', handInId, pageId: page.id, originalId, fileName, width, height, recipe };
    });
    if (!kept) return;
    await keepVerdict(page.id, originalId, first!.verdict);
    let afterPageId = page.id;
    for (const { recipe: seen, verdict } of others) {
      const pageId = nanoid();
      const recipe = { ...seen, light: page.recipe.light };
      await change({ kind: 'addPage', handInId, pageId, originalId, fileName, width, height, recipe, afterPageId });
      await keepVerdict(pageId, originalId, verdict);
      afterPageId = pageId;
    }
  } catch (error) {
    setAside.add(`${page.id} ${page.originalId}`);
    // only what can never be seen is taken out; everything else (no connection, no memory) may go better at the next start
    if (!(error instanceof FotoplanError) || !NEVER_SEEN.includes(error.code)) return;
    await change({ kind: 'removePage', handInId, pageId: page.id });
    reportUnusable(handInId, page.fileName, error.message);
  }
}

/** Looks at the shots of pages that were found elsewhere: on another screen, or before the demo began. */
export async function inspectPages(handIn: HandIn): Promise<void> {
  for (const page of boundPages(handIn)) {
    const kept = useFindStore.getState().verdicts[page.id];
    const seen = kept?.originalId === page.originalId || inspecting.has(page.originalId);
    if (seen || isPending(page.recipe) || page.pdfPage !== null) continue;
    inspecting.add(page.originalId);
    try {
      await keepVerdict(page.id, page.originalId, await longWorker.run({ kind: 'inspect', original: await loadOriginal(page), recipe: page.recipe }));
    } catch {
      // it is looked at again the next time; the check says the rest meanwhile
    } finally {
      inspecting.delete(page.originalId);
    }
  }
}
const inspecting = new Set<string>();

async function keepVerdict(pageId: string, originalId: string, verdict: ShotVerdict): Promise<void> {
  useFindStore.setState(({ verdicts }) => ({ verdicts: { ...verdicts, [pageId]: { originalId, verdict } } }));
  const { db } = await services();
  // a verdict can be made again; a full device goes without
  await db.put('verdicts', { pageId, originalId, verdict }).catch(() => undefined);
}

/** What is wrong with a page's shot, as far as it has been looked at. */
export function useShotFindings(page: Page): ShotVerdict['findings'] {
  const kept = useFindStore((s) => s.verdicts[page.id]);
  return kept !== undefined && kept.originalId === page.originalId ? kept.verdict.findings : NONE;
}

const NONE: ShotVerdict['findings'] = [];

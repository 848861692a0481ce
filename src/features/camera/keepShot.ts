import { t } from '@lingui/core/macro';
import { format } from 'date-fns/format';
import type { Page } from '../../../core/work/hand-in/handIn';
import type { PageSource } from '../../../core/work/hand-in/operation';
import type { PageKind } from '../../../core/work/paper/pageKind';
import { hashOf } from '../../../platform/hashOf';
import type { RunningEngine } from '../../engine/createEngine';
import { newPageRecipe } from '../../jobs/newPageRecipe';
import type { Shot } from './takeShot';

/** Where a shot goes: to the end, behind a page, or into a page's place. */
export type ShotPlace =
  | { readonly to: 'end' }
  | { readonly to: 'after'; readonly pageId: string }
  | { readonly to: 'again'; readonly page: Page }
  /** Nowhere of its own: what a reflection hides on a page is taken from it. */
  | { readonly to: 'fill'; readonly page: Page };

/**
 * Keeps a shot: on this device first, before anything is looked for in it. Frames taken in dim light are merged afterwards and
 * take the single one's place; should that fail, the single one stays.
 * @returns the page it became
 */
export async function keepShot(
  engine: RunningEngine,
  handInId: string,
  { photo, width, height, frames }: Shot,
  kind: PageKind,
  place: ShotPlace,
): Promise<string> {
  const fileName = t`Shot ${{ date: format(new Date(), 'yyyy-MM-dd HH.mm.ss') }}.jpg`;
  if (place.to === 'fill') return fillFrom(engine, handInId, place.page, { blob: photo, fileName });
  const source = await sourceOf(engine, photo, fileName, width, height, handInId, kind);
  const original = { id: source.originalId, fileName, blob: photo };
  let pageId: string;
  if (place.to === 'again') {
    pageId = place.page.id;
    await engine.dispatch({ kind: 'retakePage', handInId, pageId, source }, original);
  } else {
    pageId = engine.newId();
    await engine.dispatch(
      { kind: 'addPage', handInId, pageId, source, ...(place.to === 'after' ? { afterPageId: place.pageId } : {}) },
      original,
    );
  }
  if (frames !== null) mergeInto(engine, handInId, pageId, source, frames, kind).catch(() => undefined); // the single one is kept
  return pageId;
}

/**
 * Fills the reflections on a page from a second photo of it.
 * @returns the page
 * @throws FotoplanError SECOND_SHOT_UNLIKE or SECOND_SHOT_SHINES where the second photo is of no use; the page stays as it was
 */
export async function fillFrom(
  engine: RunningEngine,
  handInId: string,
  page: Page,
  second: { readonly blob: Blob; readonly fileName: string },
): Promise<string> {
  const { id: pageId, originalId: firstId, fileName, recipe } = page;
  const original = await engine.small.whole(page);
  const { photo, verdict } = await engine.scheduler.run(
    { kind: 'fillGlare', original, recipe, second },
    { priority: 'visible' },
  );
  const originalId = await hashOf(new Uint8Array(await photo.arrayBuffer()));
  await engine.dispatch(
    { kind: 'fillGlare', handInId, pageId, firstId, originalId, findings: verdict.findings },
    { id: originalId, fileName, blob: photo },
  );
  return pageId;
}

async function mergeInto(
  engine: RunningEngine,
  handInId: string,
  pageId: string,
  single: PageSource,
  frames: readonly Blob[],
  kind: PageKind,
): Promise<void> {
  const { photo } = await engine.scheduler.run({ kind: 'fuse', frames }, { priority: 'soon' });
  const { fileName, width, height } = single;
  const source = await sourceOf(engine, photo, fileName, width, height, handInId, kind);
  await engine.dispatch(
    { kind: 'mergeShot', handInId, pageId, singleId: single.originalId, source },
    { id: source.originalId, fileName, blob: photo },
  );
}

async function sourceOf(
  engine: RunningEngine,
  photo: Blob,
  fileName: string,
  width: number,
  height: number,
  handInId: string,
  kind: PageKind,
): Promise<PageSource> {
  const originalId = await hashOf(new Uint8Array(await photo.arrayBuffer()));
  return {
    originalId,
    fileName,
    width,
    height,
    takenAtMs: Date.now(),
    recipe: newPageRecipe(engine.documents.state.getState().handIns[handInId], width, height, kind),
  };
}

import { bytesToHex } from '@noble/hashes/utils';
import { nanoid } from 'nanoid';
import { format } from 'date-fns/format';
import type { Page } from '../../core/handIn/handIn';
import type { PageSource } from '../../core/handIn/operation';
import type { PageKind } from '../../core/recipe/recipe';
import { change, useHandInStore } from '../stores/handInStore';
import { addPage, reshoot } from '../stores/pageActions';
import type { Change } from '../storage/localDatabase';
import { newPageRecipe } from '../stores/intakeStore';
import { longWorker } from '../workers/pageWorkers';
import type { Shot } from './takeShot';

/** Where a shot goes: to the end, behind a page, or into a page's place. */
export type ShotPlace = { readonly to: 'end' } | { readonly to: 'after'; readonly pageId: string } | { readonly to: 'again'; readonly page: Page };

/**
 * Keeps a shot: on this device first, before anything is looked for in it. Frames taken in dim light are merged afterwards and
 * take the single one's place; should that fail, the single one stays.
 * @returns the page it became
 */
export async function keepShot(handInId: string, { photo, width, height, frames }: Shot, kind: PageKind, place: ShotPlace): Promise<string> {
  const fileName = `Shot ${format(new Date(), 'yyyy-MM-dd HH.mm.ss')}.jpg`;
  const source = await sourceOf(photo, fileName, width, height, handInId, kind);
  const original = { id: source.originalId, fileName, blob: photo };
  let pageId: string;
  if (place.to === 'again') {
    pageId = place.page.id;
    await reshoot(handInId, place.page, source, original);
  } else {
    pageId = nanoid();
    await addPage(handInId, pageId, source, original, place.to === 'after' ? { afterPageId: place.pageId } : {});
  }
  if (frames !== null) mergeInto(handInId, pageId, source, frames, kind).catch(() => undefined); // the single one is kept
  return pageId;
}

async function mergeInto(handInId: string, pageId: string, single: PageSource, frames: readonly Blob[], kind: PageKind): Promise<void> {
  const { photo } = await longWorker.run({ kind: 'fuse', frames });
  const { fileName, width, height } = single;
  const source = await sourceOf(photo, fileName, width, height, handInId, kind);
  const merged = (): Change | null => {
    const page = useHandInStore.getState().handIns[handInId]?.pages.find(({ id }) => id === pageId);
    // dropped or shot again meanwhile
    return page === undefined || page.removed || page.originalId !== single.originalId ? null : { kind: 'replaceOriginal', handInId, pageId, ...source };
  };
  await change(merged, { id: source.originalId, fileName, blob: photo });
}

async function sourceOf(photo: Blob, fileName: string, width: number, height: number, handInId: string, kind: PageKind): Promise<PageSource> {
  // a camera needs a secure page, and there the browser's own SHA-256 is at hand
  const hash = await crypto.subtle.digest('SHA-256', await photo.arrayBuffer());
  return { originalId: bytesToHex(new Uint8Array(hash)), fileName, width, height, takenAtMs: Date.now(), recipe: newPageRecipe(handInId, width, height, kind) };
}

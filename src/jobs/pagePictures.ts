import type { Page } from '../../core/work/hand-in/handIn';
import { isPending, type Recipe } from '../../core/work/recipe/recipe';
import type { DerivedStore } from './derivedStore';
import { lookKey } from './pageKey';
import type { Priority, Scheduler } from './scheduler';
import type { SmallPictures } from './smallPictures';

/** A picture for an <img>, good until it is released. */
export interface PagePicture {
  readonly key: string;
  readonly url: string;
  readonly width: number;
  readonly height: number;
}

interface Held {
  readonly picture: PagePicture;
  readonly bytes: number;
  /** How many places of the screen show it. */
  holders: number;
}

export interface PagePictures {
  keyOf(page: Page, recipe: Recipe | null, longSidePx: number): string;
  /** One that is there at once, held for the caller; or null. */
  hold(key: string): PagePicture | null;
  /**
   * The page as its recipe makes it, or with null the upright photo itself, held for the caller until released. From memory,
   * from what this device keeps, or made; made for nobody where every caller has aborted.
   */
  load(
    page: Page,
    recipe: Recipe | null,
    longSidePx: number,
    options: { readonly priority: Priority; readonly signal: AbortSignal },
  ): Promise<PagePicture>;
  release(key: string): void;
  stop(): void;
}

/** Pictures up to this size are kept on the device, so that a board is there at once after a start. */
const KEPT_LONG_SIDE_PX = 360;
/** Pictures that nobody looks at stay at hand up to this much. */
const MAX_UNHELD_BYTES = 24_000_000;

/** A picture as it is kept on the device. */
interface KeptPicture {
  readonly jpeg: ArrayBuffer;
  readonly width: number;
  readonly height: number;
}

export function createPagePictures(derived: DerivedStore, small: SmallPictures, scheduler: Scheduler): PagePictures {
  const held = new Map<string, Held>();

  const keyOf = (page: Page, recipe: Recipe | null, longSidePx: number): string =>
    showsPhoto(recipe)
      ? `photo ${longSidePx} ${page.originalId} ${page.pdfPage ?? 0}`
      : `page ${longSidePx} ${lookKey(page, recipe)}`;
  /** A page nobody has looked at yet is shown as its photo. */
  const showsPhoto = (recipe: Recipe | null): boolean =>
    recipe === null || (isPending(recipe) && recipe.quarterTurns === 0);

  function hold(key: string): PagePicture | null {
    const kept = held.get(key);
    if (kept === undefined) return null;
    kept.holders++;
    held.delete(key);
    held.set(key, kept);
    return kept.picture;
  }

  function add(key: string, blob: Blob, width: number, height: number): PagePicture {
    const known = hold(key);
    if (known !== null) return known;
    const picture = { key, url: URL.createObjectURL(blob), width, height };
    held.set(key, { picture, bytes: blob.size, holders: 1 });
    return picture;
  }

  function shrink(): void {
    const unheld = [...held].filter(([, { holders }]) => holders === 0);
    let bytes = unheld.reduce((sum, [, each]) => sum + each.bytes, 0);
    for (const [key, each] of unheld) {
      if (bytes <= MAX_UNHELD_BYTES) return;
      bytes -= each.bytes;
      held.delete(key);
      URL.revokeObjectURL(each.picture.url);
    }
  }

  async function photo(key: string, page: Page, longSidePx: number, priority: Priority): Promise<PagePicture> {
    const size = longSidePx <= KEPT_LONG_SIDE_PX ? 'thumbnail' : 'preview';
    const blob = await small.picture(page, size, priority);
    const factor = (size === 'thumbnail' ? KEPT_LONG_SIDE_PX : PREVIEW_PX) / Math.max(page.width, page.height);
    return add(key, blob, Math.round(page.width * Math.min(1, factor)), Math.round(page.height * Math.min(1, factor)));
  }

  return {
    keyOf,
    hold,
    async load(page, recipe, longSidePx, options) {
      const key = keyOf(page, recipe, longSidePx);
      const there = hold(key);
      if (there !== null) return there;
      if (showsPhoto(recipe)) return photo(key, page, longSidePx, options.priority);
      const isKept = longSidePx <= KEPT_LONG_SIDE_PX;
      // what is drawn from a thumbnail is drawn anew once there is more to draw from
      const rough = isKept && !(await small.hasPreview(page));
      const keptKey = rough ? `${key} rough` : key;
      const kept = isKept ? await derived.get<KeptPicture>(keptKey) : null;
      if (kept !== null) return add(key, new Blob([kept.jpeg], { type: 'image/jpeg' }), kept.width, kept.height);
      const original = await small.source(page, longSidePx, options.priority);
      const { picture, width, height } = await scheduler.run(
        { kind: 'render', original, recipe: { ...recipe!, marks: [] }, longSidePx },
        options,
      );
      if (isKept)
        void picture.arrayBuffer().then((jpeg) => derived.put(keptKey, { jpeg, width, height } satisfies KeptPicture));
      return add(key, picture, width, height);
    },
    release(key) {
      const kept = held.get(key);
      if (kept === undefined) return;
      kept.holders--;
      shrink();
    },
    stop() {
      for (const { picture } of held.values()) URL.revokeObjectURL(picture.url);
      held.clear();
    },
  };
}
const PREVIEW_PX = 1800;

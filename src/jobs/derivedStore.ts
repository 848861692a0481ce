import type { LocalDatabase } from '../data/localDatabase';

/** What can be made again, kept by what it was made from; the least recently used goes first when it becomes too much. */
export interface DerivedStore {
  get<T extends ArrayBuffer | object>(key: string): Promise<T | null>;
  /** A full device goes without. */
  put(key: string, value: ArrayBuffer | object): Promise<void>;
  has(key: string): Promise<boolean>;
  /** Drops the least recently used until no more than these are left. @returns bytes freed */
  shrink(maxBytes: number): Promise<number>;
  /** What it all weighs. */
  weigh(): Promise<number>;
}

/** About 300 pages' previews and thumbnails. */
export const MAX_DERIVED_BYTES = 160_000_000;
/** How exactly it is known when something was last used: writing at every look would cost more than it gains. */
const USED_EVERY_MS = 3600_000;
/** After so many new bytes the whole is weighed again. */
const WEIGH_AFTER_BYTES = 8_000_000;

/** About how many bytes a value takes. */
function sizeOf(value: unknown): number {
  if (value instanceof ArrayBuffer || ArrayBuffer.isView(value)) return value.byteLength;
  if (typeof value === 'string') return 2 * value.length;
  if (typeof value !== 'object' || value === null) return NUMBER_BYTES;
  return Object.entries(value).reduce((sum, [name, each]) => sum + name.length + sizeOf(each), 0);
}
const NUMBER_BYTES = 8;

export function createDerivedStore(db: LocalDatabase, now: () => number, maxBytes = MAX_DERIVED_BYTES): DerivedStore {
  let added = WEIGH_AFTER_BYTES;

  const weigh = async (): Promise<number> => {
    let total = 0;
    for (
      let cursor = await db.transaction('derived').store.index('byUse').openKeyCursor();
      cursor !== null;
      cursor = await cursor.continue()
    )
      total += cursor.key[1];
    return total;
  };
  async function shrink(most: number): Promise<number> {
    const before = await weigh();
    let left = before;
    const tx = db.transaction('derived', 'readwrite');
    for (
      let cursor = await tx.store.index('byUse').openKeyCursor();
      cursor !== null && left > most;
      cursor = await cursor.continue()
    ) {
      left -= cursor.key[1];
      await tx.store.delete(cursor.primaryKey);
    }
    await tx.done;
    return before - left;
  }
  return {
    async get<T extends ArrayBuffer | object>(key: string) {
      const kept = await db.get('derived', key);
      if (kept === undefined) return null;
      if (now() - kept.usedAtMs > USED_EVERY_MS)
        void db.put('derived', { ...kept, usedAtMs: now() }).catch(() => undefined);
      return kept.value as T;
    },
    async put(key, value) {
      const bytes = sizeOf(value);
      await db.put('derived', { key, value, bytes, usedAtMs: now() }).catch(() => undefined);
      added += bytes;
      if (added < WEIGH_AFTER_BYTES) return;
      added = 0;
      await shrink(maxBytes).catch(() => undefined);
    },
    has: async (key) => (await db.getKey('derived', key)) !== undefined,
    shrink,
    weigh,
  };
}

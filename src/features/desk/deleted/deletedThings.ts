import type { HandIn, Page } from '../../../../core/work/hand-in/handIn';

/** A deleted hand-in, or a deleted page of one that is there. */
export interface DeletedThing {
  readonly handIn: HandIn;
  readonly page: Page | null;
  readonly atMs: number;
}

const DAY_MS = 24 * 3600 * 1000;
/** The server deletes for good after so long, by its own clock. */
const KEPT_DAYS = 30;

/** What can be restored, deleted last first. Pages of a deleted hand-in come and go with it. */
export const deletedThings = (handIns: readonly HandIn[]): readonly DeletedThing[] =>
  handIns
    .flatMap((handIn): DeletedThing[] =>
      handIn.removedAtMs !== null
        ? [{ handIn, page: null, atMs: handIn.removedAtMs }]
        : handIn.pages.flatMap((page) => (page.removedAtMs === null ? [] : [{ handIn, page, atMs: page.removedAtMs }])),
    )
    .sort((a, b) => b.atMs - a.atMs);

/** For how many days more something can be restored, 1 to 30. */
export const restorableDays = (deletedAtMs: number, nowMs: number): number =>
  Math.min(KEPT_DAYS, Math.max(1, KEPT_DAYS - Math.floor((nowMs - deletedAtMs) / DAY_MS)));

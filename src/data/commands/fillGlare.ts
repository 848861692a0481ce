import type { ShotFinding } from '../../../core/imaging/quality/shotFindings';
import type { HandIn } from '../../../core/work/hand-in/handIn';
import { sourceOfPage } from '../../../core/work/hand-in/operation';
import type { Change } from '../change';
import { undoable, type Plan } from './plan';

/** Puts a page's photo with its reflections filled in the photo's place; all that was decided about the page stays. */
export interface FillGlare {
  readonly kind: 'fillGlare';
  readonly handInId: string;
  readonly pageId: string;
  /** The photo that was filled. */
  readonly firstId: string;
  /** What it became. */
  readonly originalId: string;
  readonly findings: readonly ShotFinding[];
}

export function fillGlare({ handInId, pageId, firstId, originalId, findings }: FillGlare, handIn: HandIn): Plan | null {
  const page = handIn.pages.find(({ id }) => id === pageId);
  // another shot may have come in its place meanwhile
  if (page === undefined || page.removedAtMs !== null || page.originalId !== firstId) return null;
  const photo = (id: string, found: readonly ShotFinding[] | null): Change[] => [
    { kind: 'replaceOriginal', handInId, pageId, ...sourceOfPage(page), originalId: id },
    ...(found === null ? [] : [{ kind: 'noteFindings' as const, handInId, pageId, originalId: id, findings: found }]),
  ];
  return undoable({ key: 'fillGlare' }, photo(originalId, findings), photo(firstId, page.findings));
}

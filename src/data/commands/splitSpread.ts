import type { ShotFinding } from '../../../core/imaging/quality/shotFindings';
import type { HandIn } from '../../../core/work/hand-in/handIn';
import { sourceOfPage } from '../../../core/work/hand-in/operation';
import type { Recipe } from '../../../core/work/recipe/recipe';
import type { Change } from '../change';
import type { Plan } from './plan';

/** Makes two pages of one on whose photo an open book was found. */
export interface SplitSpread {
  readonly kind: 'splitSpread';
  readonly handInId: string;
  readonly pageId: string;
  readonly originalId: string;
  /** As they are read. */
  readonly pages: readonly { readonly recipe: Recipe; readonly findings: readonly ShotFinding[] }[];
}

export function splitSpread(
  { handInId, pageId, originalId, pages: [first, second] }: SplitSpread,
  handIn: HandIn,
  newId: () => string,
): Plan | null {
  const page = handIn.pages.find(({ id }) => id === pageId);
  // another shot may have come in its place while the fold was looked for
  if (page === undefined || page.originalId !== originalId || first === undefined || second === undefined) return null;
  const otherId = newId();
  // what was chosen for the light stays; mends and marks have no place on the new pages, and come back with Undo
  const { finish, light } = page.recipe;
  const now: Change = { kind: 'setRecipe', handInId, pageId, recipe: { ...first.recipe, finish, light } };
  const before: Change = { kind: 'setRecipe', handInId, pageId, recipe: page.recipe };
  const findingsOf = (id: string, findings: readonly ShotFinding[]): Change => ({
    kind: 'noteFindings',
    handInId,
    pageId: id,
    originalId,
    findings,
  });
  return {
    changes: [
      now,
      findingsOf(pageId, first.findings),
      {
        kind: 'addPage',
        handInId,
        pageId: otherId,
        ...sourceOfPage(page),
        recipe: { ...second.recipe, finish, light },
        afterPageId: pageId,
      },
      findingsOf(otherId, second.findings),
    ],
    step: {
      label: { key: 'split' },
      forward: [now, { kind: 'restorePage', handInId, pageId: otherId }],
      inverse: [
        before,
        ...(page.findings === null ? [] : [findingsOf(pageId, page.findings)]),
        { kind: 'removePage', handInId, pageId: otherId },
      ],
    },
  };
}

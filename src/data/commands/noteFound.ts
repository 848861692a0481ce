import type { HandIn } from '../../../core/work/hand-in/handIn';
import type { ShotFinding } from '../../../core/imaging/quality/shotFindings';
import { isPending, type Recipe } from '../../../core/work/recipe/recipe';
import type { Change } from '../change';
import type { Plan } from './plan';

/** What was found on the photo of a pending page: one page, or two on a spread. */
export interface NoteFound {
  readonly kind: 'noteFound';
  readonly handInId: string;
  readonly pageId: string;
  readonly originalId: string;
  /** The photo's true upright size in px. */
  readonly width: number;
  readonly height: number;
  readonly pages: readonly { readonly recipe: Recipe; readonly findings: readonly ShotFinding[] }[];
}

/** The id of a further page on the same photo: made from the first's, so that two devices that find it at once add it once. */
const furtherId = (pageId: string, n: number): string => `${pageId.slice(0, 36)}-p${n + 1}`;

export function noteFound(
  { handInId, pageId, originalId, width, height, pages: [first, ...others] }: NoteFound,
  handIn: HandIn,
): Plan | null {
  const page = handIn.pages.find(({ id }) => id === pageId);
  // somebody was quicker: the outline is set, or another shot is in its place
  if (page === undefined || first === undefined || page.originalId !== originalId || !isPending(page.recipe))
    return null;
  const { finish, light } = page.recipe;
  const { fileName, takenAtMs } = page;
  const source = { originalId, fileName, width, height, ...(takenAtMs === null ? {} : { takenAtMs }) };
  const recipe = turnedBy(page.recipe, { ...first.recipe, finish, light });
  const changes: Change[] = [
    width === page.width && height === page.height
      ? { kind: 'setRecipe', handInId, pageId, recipe }
      : { kind: 'replaceOriginal', handInId, pageId, ...source, recipe },
    { kind: 'noteFindings', handInId, pageId, originalId, findings: first.findings },
  ];
  let afterPageId = pageId;
  for (const [n, other] of others.entries()) {
    const id = furtherId(pageId, n + 1);
    changes.push({
      kind: 'addPage',
      handInId,
      pageId: id,
      ...source,
      recipe: turnedBy(page.recipe, { ...other.recipe, light }),
      afterPageId,
    });
    changes.push({ kind: 'noteFindings', handInId, pageId: id, originalId, findings: other.findings });
    afterPageId = id;
  }
  return { changes };
}

/** What was found, turned as a person has turned the page meanwhile; else as it was found to be read. */
const turnedBy = ({ quarterTurns, uprightConfidence }: Recipe, found: Recipe): Recipe =>
  uprightConfidence === null ? found : { ...found, quarterTurns, uprightConfidence };

/** What was seen on the shot of a page whose paper was found elsewhere. */
export interface NoteFindings {
  readonly kind: 'noteFindings';
  readonly handInId: string;
  readonly pageId: string;
  readonly originalId: string;
  readonly findings: readonly ShotFinding[];
}
export const noteFindings = ({ handInId, pageId, originalId, findings }: NoteFindings): Plan => ({
  changes: [{ kind: 'noteFindings', handInId, pageId, originalId, findings }],
});

/** The photo of a page turned out to be none: the page goes, and cannot be undone into being one. */
export interface DropUnreadable {
  readonly kind: 'dropUnreadable';
  readonly handInId: string;
  readonly pageId: string;
}
export const dropUnreadable = ({ handInId, pageId }: DropUnreadable): Plan => ({
  changes: [{ kind: 'removePage', handInId, pageId }],
});

import { PLAIN_BINDING } from '../../../../core/work/hand-in/bindSettings';
import type { HandIn } from '../../../../core/work/hand-in/handIn';
import { wholePhotoRecipe } from '../../../../core/work/recipe/plainRecipe';
import { deletedThings, restorableDays } from './deletedThings';

const DAY_MS = 24 * 3600 * 1000;
const handIn = (id: string, removedAtMs: number | null, pages: readonly (number | null)[]): HandIn => ({
  id,
  title: id,
  paper: 'auto',
  binding: PLAIN_BINDING,
  assignmentId: null,
  createdAtMs: 1,
  changedAtMs: 1,
  removedAtMs,
  deletedPageIds: [],
  pages: pages.map((removed, i) => ({
    id: `${id}-${i}`,
    originalId: 'a',
    fileName: 'a.jpg',
    width: 10,
    height: 14,
    pdfPage: null,
    takenAtMs: null,
    leftOut: false,
    removedAtMs: removed,
    findings: null,
    recipe: wholePhotoRecipe(10, 14, 'daylight'),
  })),
});

describe('what was deleted', () => {
  it('is listed the latest first, pages of a deleted hand-in not on their own', () => {
    const things = deletedThings([handIn('here', null, [5, null, 9]), handIn('gone', 7, [3, null])]);
    expect(things.map(({ handIn: { id }, page, atMs }) => [id, page?.id ?? null, atMs])).toEqual([
      ['here', 'here-2', 9],
      ['gone', null, 7],
      ['here', 'here-0', 5],
    ]);
  });

  it('can be restored for 30 days, whatever the device’s clock says', () => {
    expect(restorableDays(0, 0)).toBe(30);
    expect(restorableDays(0, 29.5 * DAY_MS)).toBe(1);
    expect(restorableDays(0, 90 * DAY_MS)).toBe(1);
    expect(restorableDays(10 * DAY_MS, 0)).toBe(30);
  });
});

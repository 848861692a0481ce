import { nanoid } from 'nanoid';
import { PLAIN_BINDING, type BindSettings } from '../../core/handIn/bindSettings';
import type { Assignment } from '../../core/ready/assignment';
import { shownPages, type HandIn, type Page } from '../../core/handIn/handIn';
import { setDown, sourceOfPage, type PageSource } from '../../core/handIn/operation';
import type { Paper } from '../../core/pdf/paperSize';
import { changedFields, turnRecipe, type Recipe } from '../../core/recipe/recipe';
import type { Change, StoredOriginal } from '../storage/localDatabase';
import { change, changeAll, useHandInStore } from './handInStore';
import { perform, record } from './historyStore';
import { changeProfile, useProfileStore } from './profileStore';
import { useOfficeStore } from '../office/officeStore';
import type { NamePattern } from '../../core/naming/namePattern';

/** What a person does with a hand-in and its pages: each a step that can be taken back. */

export async function createHandIn(title: string): Promise<string> {
  const handInId = nanoid();
  const { paper, name } = useProfileStore.getState();
  await changeAll([
    { kind: 'createHandIn', handInId, title, paper },
    ...(name === null ? [] : [{ kind: 'changeHandIn', handInId, binding: { ...PLAIN_BINDING, name } } as const]),
  ]);
  return handInId;
}

/** Begins with an assignment: its title, its limit and its name for the file. */
export async function createHandInFor(assignment: Assignment): Promise<string> {
  const handInId = await createHandIn(assignment.title);
  const { binding } = useHandInStore.getState().handIns[handInId]!;
  await change({ kind: 'changeHandIn', handInId, assignmentId: assignment.id, binding: rulesOf(assignment, binding) });
  return handInId;
}

/** The office's own convention, else what this person uses for the course, else what the hand-in had. */
const rulesOf = ({ maxBytes, name, courseCode }: Assignment, binding: BindSettings): BindSettings => ({ ...binding, maxBytes, name: name ?? useProfileStore.getState().courseNames[courseCode] ?? binding.name });

/** Hands it in for an assignment, whose rules it takes over; null takes it off. */
export function attachTo(handIn: HandIn, assignment: Assignment | null): Promise<void> {
  const { id: handInId, assignmentId, binding } = handIn;
  const after = assignment === null ? {} : { binding: rulesOf(assignment, binding) };
  return perform(handInId, 'the assignment', [{ kind: 'changeHandIn', handInId, assignmentId: assignment?.id ?? null, ...after }], [{ kind: 'changeHandIn', handInId, assignmentId, binding }]);
}

export const renameHandIn = ({ id: handInId, title: before }: HandIn, title: string): Promise<void> =>
  perform(handInId, 'the new name', [{ kind: 'changeHandIn', handInId, title }], [{ kind: 'changeHandIn', handInId, title: before }]);

export const setPaper = ({ id: handInId, paper: before }: HandIn, paper: Paper): Promise<void> =>
  perform(handInId, 'the paper', [{ kind: 'changeHandIn', handInId, paper }], [{ kind: 'changeHandIn', handInId, paper: before }]);

/** Sets how its file is named; for a course the same is used the next time. */
export function setNaming(handIn: HandIn, name: NamePattern | null): Promise<void> {
  const course = useOfficeStore.getState().assignments.find(({ id }) => id === handIn.assignmentId)?.courseCode;
  if (course !== undefined && name !== null) void changeProfile({ courseNames: { ...useProfileStore.getState().courseNames, [course]: name } });
  return setBinding(handIn, { name }, 'the name’s convention');
}

/** Changes how it is bound; naming each step, so that it can be taken back. */
export const setBinding = ({ id: handInId, binding: before }: HandIn, changes: Partial<BindSettings>, label: string): Promise<void> =>
  perform(handInId, label, [{ kind: 'changeHandIn', handInId, binding: { ...before, ...changes } }], [{ kind: 'changeHandIn', handInId, binding: before }]);

function setRecipes(handInId: string, pages: readonly Page[], recipeOf: (recipe: Recipe) => Recipe, label: string): Promise<void> {
  const edits = pages.map(({ id: pageId, recipe: before }) => {
    const recipe = recipeOf(before);
    return { pageId, before, recipe, fields: changedFields(before, recipe) };
  });
  return perform(
    handInId,
    label,
    edits.map(({ pageId, recipe, fields }) => ({ kind: 'setRecipe', handInId, pageId, recipe, fields })),
    edits.map(({ pageId, before: recipe, fields }) => ({ kind: 'setRecipe', handInId, pageId, recipe, fields })),
  );
}

export const setRecipe = (handInId: string, page: Page, recipe: Recipe, label: string): Promise<void> => setRecipes(handInId, [page], () => recipe, label);

/** One light on some pages. */
export function setLight(handIn: HandIn, pageIds: readonly string[], { finish, light }: Pick<Recipe, 'finish' | 'light'>, label: string): Promise<void> {
  const same = (recipe: Recipe): boolean => recipe.finish === finish && JSON.stringify(recipe.light) === JSON.stringify(light);
  const pages = handIn.pages.filter((page) => pageIds.includes(page.id) && !same(page.recipe));
  return setRecipes(handIn.id, pages, (recipe) => ({ ...recipe, finish, light }), label);
}

export const turnPages = (handIn: HandIn, pages: readonly Page[], turns: 1 | 2 | 3): Promise<void> => setRecipes(handIn.id, pages, (recipe) => turnRecipe(recipe, turns), pages.length === 1 ? 'the turn' : `turning ${pages.length} pages`);

/** Adds a page, and can take it out again. Pages of one group are one step. */
export async function addPage(handInId: string, pageId: string, source: PageSource, original: StoredOriginal, options: { readonly afterPageId?: string; readonly group?: string }): Promise<void> {
  const { afterPageId, group } = options;
  const step = { label: group === undefined ? 'adding a page' : 'adding pages', ...(group === undefined ? {} : { group }) };
  // doing it again finds the page still there, only taken out
  await record(handInId, [{ kind: 'addPage', handInId, pageId, ...source, ...(afterPageId === undefined ? {} : { afterPageId }) }], { ...step, forward: [{ kind: 'restorePage', handInId, pageId }], inverse: [{ kind: 'removePage', handInId, pageId }] }, original);
}

/** Puts another shot in a page's place. */
export const reshoot = (handInId: string, page: Page, shot: PageSource, original: StoredOriginal): Promise<void> =>
  perform(handInId, 'shooting a page again', [{ kind: 'replaceOriginal', handInId, pageId: page.id, ...shot }], [{ kind: 'replaceOriginal', handInId, pageId: page.id, ...sourceOfPage(page) }], original);

export const removePages = (handInId: string, pageIds: readonly string[]): Promise<void> =>
  perform(
    handInId,
    pageIds.length === 1 ? 'removing a page' : `removing ${pageIds.length} pages`,
    pageIds.map((pageId) => ({ kind: 'removePage', handInId, pageId })),
    pageIds.map((pageId) => ({ kind: 'restorePage', handInId, pageId })),
  );

export const leaveOut = (handInId: string, pages: readonly Page[], leftOut: boolean): Promise<void> =>
  perform(
    handInId,
    `${leftOut ? 'leaving out' : 'taking in'} ${pages.length === 1 ? 'a page' : `${pages.length} pages`}`,
    pages.map((page) => ({ kind: 'leaveOut', handInId, pageId: page.id, leftOut })),
    pages.map((page) => ({ kind: 'leaveOut', handInId, pageId: page.id, leftOut: page.leftOut })),
  );

const orderChange = (handInId: string, pageIds: readonly string[]): Change => ({ kind: 'orderPages', handInId, pageIds });

/** Lays all pages in a new order, those taken out wherever they were. */
export function setOrder(handIn: HandIn, shownIds: readonly string[], label: string): Promise<void> {
  const before = handIn.pages.map(({ id }) => id);
  if (shownIds.join() === shownPages(handIn).map(({ id }) => id).join()) return Promise.resolve();
  return perform(handIn.id, label, [orderChange(handIn.id, shownIds)], [orderChange(handIn.id, before)]);
}

/** Moves pages together to where another page lies. */
export function movePages(handIn: HandIn, moving: readonly string[], lifted: string, over: string): Promise<void> {
  const ids = shownPages(handIn).map(({ id }) => id);
  return setOrder(handIn, setDown(ids, moving, lifted, over), moving.length === 1 ? 'moving a page' : `moving ${moving.length} pages`);
}

/** Moves pages so that the first of them has this number, counted among all that are there. */
export function movePagesTo(handIn: HandIn, moving: readonly string[], number: number): Promise<void> {
  const ids = shownPages(handIn).map(({ id }) => id);
  const rest = ids.filter((id) => !moving.includes(id));
  const at = Math.min(rest.length, Math.max(0, number - 1));
  const group = ids.filter((id) => moving.includes(id));
  return setOrder(handIn, [...rest.slice(0, at), ...group, ...rest.slice(at)], moving.length === 1 ? 'moving a page' : `moving ${moving.length} pages`);
}

/** Moves a page by one place: -1 earlier, 1 later. */
export function movePageBy(handIn: HandIn, pageId: string, by: -1 | 1): Promise<void> {
  const ids = shownPages(handIn).map(({ id }) => id);
  const over = ids[ids.indexOf(pageId) + by];
  return over === undefined ? Promise.resolve() : movePages(handIn, [pageId], pageId, over);
}

export const reverseOrder = (handIn: HandIn): Promise<void> => setOrder(handIn, shownPages(handIn).map(({ id }) => id).reverse(), 'the reverse order');

/** By when they were shot; pages whose files do not tell keep their place among the others. */
export function sortByTimeTaken(handIn: HandIn): Promise<void> {
  const pages = shownPages(handIn);
  const timed = pages.filter(({ takenAtMs }) => takenAtMs !== null).sort((a, b) => a.takenAtMs! - b.takenAtMs!);
  return setOrder(handIn, pages.map((page) => (page.takenAtMs === null ? page.id : timed.shift()!.id)), 'the order of shooting');
}

/** Lays a copy of each page behind it. */
export async function duplicatePages(handIn: HandIn, pages: readonly Page[]): Promise<void> {
  const copies = pages.map((page) => ({ page, id: nanoid() }));
  const changes: Change[] = copies.map(({ page, id: pageId }) => ({ kind: 'addPage', handInId: handIn.id, pageId, ...sourceOfPage(page), afterPageId: page.id }));
  await record(handIn.id, changes, {
    label: pages.length === 1 ? 'copying a page' : `copying ${pages.length} pages`,
    forward: copies.map(({ id: pageId }) => ({ kind: 'restorePage', handInId: handIn.id, pageId })),
    inverse: copies.map(({ id: pageId }) => ({ kind: 'removePage', handInId: handIn.id, pageId })),
  });
}

/** Lays copies of pages at the end of another hand-in, and takes them out of this one where they are to move. */
export async function sendPages(from: HandIn, pages: readonly Page[], toId: string, keepHere: boolean): Promise<void> {
  const copies = pages.map((page) => ({ page, id: nanoid() }));
  const added: Change[] = copies.map(({ page, id: pageId }) => ({ kind: 'addPage', handInId: toId, pageId, ...sourceOfPage(page) }));
  const there = (kind: 'restorePage' | 'removePage'): Change[] => copies.map(({ id: pageId }) => ({ kind, handInId: toId, pageId }));
  const here = (kind: 'restorePage' | 'removePage'): Change[] => (keepHere ? [] : pages.map(({ id: pageId }) => ({ kind, handInId: from.id, pageId })));
  await record(from.id, [...added, ...here('removePage')], {
    label: `${keepHere ? 'copying' : 'moving'} ${pages.length === 1 ? 'a page' : `${pages.length} pages`} to another hand-in`,
    forward: [...there('restorePage'), ...here('removePage')],
    inverse: [...there('removePage'), ...here('restorePage')],
  });
}

import { boundPages, shownPages } from '../../core/handIn/handIn';
import { wholePhotoRecipe } from '../../core/recipe/plainRecipe';
import { useHandInStore } from './handInStore';
import { loadHistories, redo, undo, useHistoryStore } from './historyStore';
import { addPage, createHandIn, duplicatePages, leaveOut, movePages, movePagesTo, removePages, reverseOrder, sendPages, sortByTimeTaken, turnPages } from './pageActions';

const handIn = (id: string) => useHandInStore.getState().handIns[id]!;
const order = (id: string): string => shownPages(handIn(id)).map((page) => page.fileName[0]).join('');
const page = (id: string, name: string) => shownPages(handIn(id)).find(({ fileName }) => fileName.startsWith(name))!;

async function pagesOf(names: string, taken: readonly number[] = []): Promise<string> {
  const id = await createHandIn('Set 4');
  for (const [i, name] of [...names].entries()) {
    const originalId = name.repeat(64);
    await addPage(id, `${id}-${name}`, { originalId, fileName: `${name}.jpg`, width: 100, height: 141, recipe: wholePhotoRecipe(100, 141, 'daylight'), ...(taken[i] === undefined ? {} : { takenAtMs: taken[i] }) }, { id: originalId, fileName: `${name}.jpg`, blob: new Blob(['photo']) }, { group: 'all' });
  }
  return id;
}

describe('the history of a hand-in', () => {
  it('takes back and does again, in order, everything that can be done with pages', async () => {
    const id = await pagesOf('abcd');
    await movePages(handIn(id), [`${id}-a`], `${id}-a`, `${id}-c`);
    await turnPages(handIn(id), [page(id, 'b'), page(id, 'd')], 1);
    await leaveOut(id, [page(id, 'c')], true);
    await duplicatePages(handIn(id), [page(id, 'd')]);
    await movePagesTo(handIn(id), [`${id}-d`, `${id}-b`], 1);
    await reverseOrder(handIn(id));
    await removePages(id, [`${id}-a`]);
    const pagesNow = JSON.stringify(shownPages(handIn(id)));
    expect(order(id)).toBe('dcdb');
    const labels = useHistoryStore.getState().histories[id]!.done.map(({ label }) => label);
    expect(labels).toEqual(['adding pages', 'moving a page', 'turning 2 pages', 'leaving out a page', 'copying a page', 'moving 2 pages', 'the reverse order', 'removing a page']);
    for (let i = 0; i < 7; i++) await undo(id);
    expect(order(id)).toBe('abcd');
    expect(shownPages(handIn(id)).every(({ leftOut, recipe }) => !leftOut && recipe.quarterTurns === 0)).toBe(true);
    for (let i = 0; i < 7; i++) await redo(id);
    expect(JSON.stringify(shownPages(handIn(id)))).toBe(pagesNow);
    for (let i = 0; i < 9; i++) await undo(id); // the adding too; then there is nothing left
    expect(order(id)).toBe('');
    await redo(id);
    expect(order(id)).toBe('abcd');
  });

  it('is there again after a reload, and a new step ends what could be done again', async () => {
    const id = await pagesOf('ab');
    await reverseOrder(handIn(id));
    await undo(id);
    useHistoryStore.setState({ histories: {} });
    await loadHistories();
    expect(useHistoryStore.getState().histories[id]).toMatchObject({ done: [{ label: 'adding pages' }], undone: [{ label: 'the reverse order' }] });
    await turnPages(handIn(id), [page(id, 'a')], 2);
    await redo(id);
    expect(order(id)).toBe('ab');
  });

  it('orders by when pages were shot; those that do not tell stay in their places', async () => {
    const id = await pagesOf('abcd', [30, 10]);
    await sortByTimeTaken(handIn(id));
    expect(order(id)).toBe('bacd');
  });

  it('moves pages to another hand-in, and back', async () => {
    const from = await pagesOf('abc');
    const to = await pagesOf('x');
    await sendPages(handIn(from), [page(from, 'a'), page(from, 'c')], to, false);
    expect([order(from), order(to)]).toEqual(['b', 'xac']);
    await undo(from);
    expect([order(from), order(to)]).toEqual(['abc', 'x']);
    await redo(from);
    expect([order(from), order(to)]).toEqual(['b', 'xac']);
    expect(boundPages(handIn(to))).toHaveLength(3);
  });
});

import { PLAIN_LIGHT } from '../../core/finish/light';
import { boundPages } from '../../core/handIn/handIn';
import { wholePhotoRecipe } from '../../core/recipe/plainRecipe';
import { change, useHandInStore } from './handInStore';
import { undo } from './historyStore';
import { createHandIn, movePageBy, removePages, renameHandIn, setLight } from './pageActions';
import { services } from './services';
import { useSyncStore } from './syncStore';

const handIn = (id: string) => useHandInStore.getState().handIns[id]!;
const order = (id: string): string[] => boundPages(handIn(id)).map((page) => page.id);

async function threePages(): Promise<string> {
  const id = await createHandIn('Set 4');
  for (const n of [1, 2, 3]) {
    await change(
      { kind: 'addPage', handInId: id, pageId: `page-${n}`, originalId: `${n}`.repeat(64), fileName: `${n}.jpg`, width: 100, height: 141, recipe: wholePhotoRecipe(100, 141, 'daylight') },
      { id: `${n}`.repeat(64), fileName: `${n}.jpg`, blob: new Blob(['photo']) },
    );
  }
  return id;
}

describe('hand-ins on this device', () => {
  it('are written with their photo and their operation before they are shown', async () => {
    const id = await threePages();
    const { db } = await services();
    expect((await db.get('handIns', id))!.pages).toHaveLength(3);
    expect(await db.get('originals', '2'.repeat(64))).toMatchObject({ fileName: '2.jpg' });
    const kinds = (await db.getAll('outbox')).map((item) => (item.kind === 'operation' ? item.operation.kind : item.kind));
    expect(kinds).toEqual(['createHandIn', 'original', 'addPage', 'original', 'addPage', 'original', 'addPage']);
  });

  it('take back each change in turn: order, light, removal, name', async () => {
    const id = await threePages();
    const start = handIn(id);
    await movePageBy(handIn(id), 'page-3', -1);
    expect(order(id)).toEqual(['page-1', 'page-3', 'page-2']);
    await setLight(handIn(id), ['page-1', 'page-2', 'page-3'], { finish: 'asshot', light: PLAIN_LIGHT }, 'the light on 3 pages');
    await removePages(id, ['page-1']);
    expect(order(id)).toEqual(['page-3', 'page-2']);
    await renameHandIn(handIn(id), 'Another name');
    for (let i = 0; i < 4; i++) await undo(id);
    expect({ ...handIn(id), changedAtMs: 0 }).toEqual({ ...start, changedAtMs: 0 });
    await undo(id); // nothing left: nothing happens
    expect(order(id)).toEqual(['page-1', 'page-2', 'page-3']);
  });

  it('count as unsaved from the moment they are wanted, also where they fail', async () => {
    const id = await threePages();
    const wanted = renameHandIn(handIn(id), 'Another name');
    expect(useSyncStore.getState().writing).toBeGreaterThan(0);
    await wanted;
    expect(useSyncStore.getState().writing).toBe(0);
    await expect(change({ kind: 'removePage', handInId: 'nowhere', pageId: 'page-1' })).rejects.toThrow();
    expect(useSyncStore.getState().writing).toBe(0);
  });

  it('move a page past one that was taken out', async () => {
    const id = await threePages();
    await removePages(id, ['page-2']);
    await movePageBy(handIn(id), 'page-3', -1);
    expect(order(id)).toEqual(['page-3', 'page-1']);
    await movePageBy(handIn(id), 'page-3', 1);
    expect(order(id)).toEqual(['page-1', 'page-3']);
    await movePageBy(handIn(id), 'page-3', 1); // already last
    expect(order(id)).toEqual(['page-1', 'page-3']);
  });

  it('refuse a change to what is not here, and go on with the next', async () => {
    await expect(change({ kind: 'removePage', handInId: 'nowhere', pageId: 'page-1' })).rejects.toMatchObject({ code: 'NOT_FOUND' });
    await expect(createHandIn('After that')).resolves.toEqual(expect.any(String));
  });
});

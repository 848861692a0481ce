import { FotoplanError as mockFotoplanError } from '../../core/errors';
import { boundPages } from '../../core/handIn/handIn';
import { pendingRecipe } from '../../core/recipe/plainRecipe';
import { wholePhotoRecipe as mockWhole } from '../../core/recipe/plainRecipe';
import { startFinding, useFindStore } from './findStore';
import { change, useHandInStore } from './handInStore';
import { createHandIn, setRecipe } from './pageActions';
import { useIntakeStore } from './intakeStore';

const mockVerdict = { findings: ['blurred'] };
jest.mock('../workers/pageWorkers', () => ({
  longWorker: {
    run: ({ original, finish, pageKind }: { original: { fileName: string }; finish: 'daylight'; pageKind: string }) => {
      if (original.fileName === 'damaged.jpg') return Promise.reject(new mockFotoplanError('PHOTO_UNREADABLE', '“damaged.jpg” is damaged inside.'));
      if (original.fileName === 'lost.jpg') return Promise.reject(new mockFotoplanError('WORKER_LOST', 'no memory'));
      const page = { recipe: { ...mockWhole(100, 141, finish), outline: { ...mockWhole(100, 141, finish).outline, by: 'found' } }, verdict: mockVerdict };
      return Promise.resolve({ width: 100, height: 141, pages: pageKind === 'spread' ? [page, page] : [page] });
    },
  },
}));

let count = 0;
async function addPending(handInId: string, fileName: string, kind: 'sheet' | 'spread' = 'sheet'): Promise<string> {
  const pageId = `page-${++count}`;
  const original = { id: fileName.padEnd(64, '0'), fileName, blob: new Blob(['x']) };
  await change({ kind: 'addPage', handInId, pageId, originalId: original.id, fileName, width: 100, height: 141, recipe: pendingRecipe(100, 141, 'daylight', kind) }, original);
  return pageId;
}
const pagesOf = (id: string) => boundPages(useHandInStore.getState().handIns[id]!);
const settled = async (id: string): Promise<void> => {
  for (let i = 0; i < 50; i++) {
    await new Promise((resolve) => setTimeout(resolve, 5));
    if (pagesOf(id).every((page) => page.recipe.outline.by !== 'pending')) return;
  }
};

describe('looking for the paper behind the person’s back', () => {
  beforeAll(() => startFinding());

  it('finds what was kept, in order, and says what is wrong with the shot', async () => {
    const id = await createHandIn('Set 1');
    const pageId = await addPending(id, 'one.jpg');
    await settled(id);
    expect(pagesOf(id)[0]!.recipe.outline.by).toBe('found');
    expect(useFindStore.getState().verdicts[pageId]).toMatchObject({ verdict: mockVerdict });
  });

  it('makes two pages of a spread, behind each other and before what follows', async () => {
    const id = await createHandIn('Set 2');
    await addPending(id, 'spread.jpg', 'spread');
    await addPending(id, 'after.jpg');
    await settled(id);
    expect(pagesOf(id).map((page) => page.fileName)).toEqual(['spread.jpg', 'spread.jpg', 'after.jpg']);
  });

  it('takes out only what can never be seen, and names it', async () => {
    const id = await createHandIn('Set 3');
    await addPending(id, 'lost.jpg');
    await addPending(id, 'damaged.jpg');
    await settled(id);
    expect(pagesOf(id).map((page) => [page.fileName, page.recipe.outline.by])).toEqual([['lost.jpg', 'pending']]);
    expect(useIntakeStore.getState().intakes.map(({ problem }) => problem)).toEqual(['“damaged.jpg” is damaged inside.']);
  });

  it('does not undo what the person decided meanwhile', async () => {
    const id = await createHandIn('Set 4');
    await addPending(id, 'mine.jpg');
    const page = pagesOf(id)[0]!;
    await setRecipe(id, page, mockWhole(100, 141, 'asshot'), 'the edges');
    await settled(id);
    expect(pagesOf(id)[0]!.recipe).toEqual(mockWhole(100, 141, 'asshot'));
  });
});

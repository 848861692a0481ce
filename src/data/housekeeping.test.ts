import 'fake-indexeddb/auto';
import type { KeptBytes } from '../../platform/keptBytes';
import { wholePhotoRecipe } from '../../core/work/recipe/plainRecipe';
import { sweep } from './housekeeping';
import { openLocalDatabase } from './localDatabase';

it('what nothing refers to is let go, and nothing else', async () => {
  const kept = new Set([
    'original-shown',
    'original-retaken',
    'original-waiting',
    'original-nobody',
    'bound-file-1',
    'bound-file-1-part-2',
    'bound-file-gone',
    'bound-file-old',
    'trial-1',
  ]);
  const bytes = {
    list: () => Promise.resolve([...kept]),
    delete: (name: string) => Promise.resolve(void kept.delete(name)),
  } as unknown as KeptBytes;
  const db = await openLocalDatabase(
    { onBlocked: () => undefined, onOutdated: () => undefined, onLost: () => undefined },
    'sweeping',
  );
  const recipe = wholePhotoRecipe(10, 14, 'daylight');
  const source = (originalId: string) => ({ originalId, fileName: 'a.jpg', width: 10, height: 14, recipe });
  await db.put('handIns', {
    id: 'h',
    title: 'Set 4',
    paper: 'auto',
    createdAtMs: 1,
    changedAtMs: 1,
    pages: [{ id: 'page-1', ...source('shown') }],
  });
  await db.put('histories', {
    handInId: 'h',
    done: [
      {
        label: { key: 'retake' },
        forward: [],
        inverse: [{ kind: 'replaceOriginal', handInId: 'h', pageId: 'page-1', ...source('retaken') }],
      },
    ],
    undone: [],
  });
  await db.put('histories', { handInId: 'gone', done: [], undone: [] });
  await db.add('outbox', { kind: 'original', originalId: 'waiting' });
  const file = { name: 'a.pdf', sha256: 'x', pageBytes: [], codings: [], boundAtMs: 1, madeFrom: 'y' };
  await db.put('boundFiles', { ...file, handInId: 'h', id: 'file-1', partCount: 2 });
  await db.put('boundFiles', { ...file, handInId: 'gone', id: 'file-gone' });
  for (const id of ['shown', 'nobody']) await db.put('originals', { id, fileName: 'a.jpg', bytes: 10, from: 'here' });

  await sweep(db, bytes);
  expect([...kept]).toEqual([
    'original-shown',
    'original-retaken',
    'original-waiting',
    'bound-file-1',
    'bound-file-1-part-2',
    'trial-1',
  ]);
  expect(await db.getAllKeys('originals')).toEqual(['shown']);
  expect([await db.getAllKeys('boundFiles'), await db.getAllKeys('histories')]).toEqual([['h'], ['h']]);
});

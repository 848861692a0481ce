import { FotoplanError } from '../../core/errors';
import type { Operation } from '../../core/handIn/operation';
import type { ApiClient } from '../api/apiClient';
import { openLocalDatabase, type LocalDatabase } from '../storage/localDatabase';
import { createSyncLoop, type SyncState } from './syncLoop';

const operation = (n: number): Operation => ({ id: `operation-${n}`, handInId: 'hand-in-1', atMs: n, kind: 'changeHandIn', title: `title ${n}` });

let names = 0;
async function setUp(send: (operation: Operation) => void) {
  const db: LocalDatabase = await openLocalDatabase(`sync-${++names}`);
  const states: SyncState[] = [];
  const sent: string[] = [];
  const api = {
    sendOperations: ([only]: readonly Operation[]) => {
      send(only!);
      sent.push(only!.id);
      return Promise.resolve();
    },
    sendOriginal: (sha256: string) => {
      sent.push(sha256);
      return Promise.resolve();
    },
  } as unknown as ApiClient;
  const loop = createSyncLoop(db, api, (state) => states.push(state));
  const settled = async (until: (state: SyncState) => boolean): Promise<void> => {
    for (let i = 0; i < 400 && !(states.length > 0 && until(states.at(-1)!)); i++) await new Promise((resolve) => setTimeout(resolve, 10));
    expect(until(states.at(-1)!)).toBe(true);
  };
  return { db, loop, sent, states, settled };
}

describe('the sync loop', () => {
  it('sends what waits in order, and each item leaves only then', async () => {
    const { db, loop, sent, settled } = await setUp(() => undefined);
    await db.put('originals', { id: 'photo', fileName: 'a.jpg', blob: new Blob(['x']) });
    await db.add('outbox', { kind: 'original', originalId: 'photo' });
    for (const n of [1, 2, 3]) await db.add('outbox', { kind: 'operation', operation: operation(n) });
    loop.wake();
    await settled((state) => state.waiting === 0);
    expect(sent).toEqual(['photo', 'operation-1', 'operation-2', 'operation-3']);
    expect(await db.count('outbox')).toBe(0);
  });

  it('keeps everything while the line is down and goes on by itself when it is back', async () => {
    let down = true;
    const { db, loop, sent, settled } = await setUp(() => {
      if (down) throw new FotoplanError('OFFLINE', 'no connection');
    });
    await db.add('outbox', { kind: 'operation', operation: operation(1) });
    loop.wake();
    await settled((state) => state.connection === 'down');
    expect(await db.count('outbox')).toBe(1);
    down = false;
    await settled((state) => state.waiting === 0 && state.connection === 'up');
    expect(sent).toEqual(['operation-1']);
  });

  it('sets aside what the server refuses, says why, and sends the rest', async () => {
    const { db, loop, sent, states, settled } = await setUp(({ id }) => {
      if (id === 'operation-1') throw new FotoplanError('RECIPE_INVALID', 'The sides cross each other.');
    });
    for (const n of [1, 2]) await db.add('outbox', { kind: 'operation', operation: operation(n) });
    loop.wake();
    await settled((state) => state.waiting === 0);
    expect(sent).toEqual(['operation-2']);
    expect(states.at(-1)!.problem).toBe('The sides cross each other.');
  });
});

import 'fake-indexeddb/auto';
import { openLocalDatabase } from '../data/localDatabase';
import { createDerivedStore } from './derivedStore';

const events = { onBlocked: () => undefined, onOutdated: () => undefined, onLost: () => undefined };
let lastDb = 0;
const open = async (maxBytes: number) => {
  const clock = { now: 1 };
  const store = createDerivedStore(await openLocalDatabase(events, `derived ${++lastDb}`), () => clock.now, maxBytes);
  return { clock, store };
};

describe('what can be made again', () => {
  it('is kept by its key, bytes and values alike', async () => {
    const { store } = await open(1e9);
    await store.put('a', new Uint8Array([1, 2, 3]).buffer);
    await store.put('b', { number: 4, fingerprint: new Float32Array([0.5]) });
    expect(new Uint8Array((await store.get<ArrayBuffer>('a'))!)).toEqual(new Uint8Array([1, 2, 3]));
    const facts = (await store.get<{ number: number; fingerprint: Float32Array }>('b'))!;
    expect([facts.number, ...facts.fingerprint]).toEqual([4, 0.5]);
    expect([await store.get('c'), await store.has('a'), await store.has('c')]).toEqual([null, true, false]);
  });

  it('goes when it becomes too much, what was used last longest ago first', async () => {
    const { clock, store } = await open(25_000_000);
    for (const key of ['a', 'b', 'c']) {
      clock.now += 2 * 3600_000;
      await store.put(key, new ArrayBuffer(8_000_000));
    }
    clock.now += 2 * 3600_000;
    await store.get('a');
    clock.now += 2 * 3600_000;
    await store.put('d', new ArrayBuffer(8_000_000));
    expect(await Promise.all(['a', 'b', 'c', 'd'].map((key) => store.has(key)))).toEqual([true, false, true, true]);
    expect(await store.weigh()).toBe(24_000_000);
    expect(await store.shrink(0)).toBe(24_000_000);
    expect(await store.weigh()).toBe(0);
  });
});

import 'fake-indexeddb/auto';
import type { FotoplanError } from '../../../core/errors';
import type { KeptBytes } from '../../keptBytes';
import { openBufferBytes } from './bufferBytes';
import { openFileBytes } from './fileBytes';
import { openKeptBytes } from './openKeptBytes';
import { storageError } from './storageError';

const photo = new Blob([new Uint8Array([9, 8, 7, 6])]);
const inMemory = (kept = new Map<string, Blob>()): KeptBytes => ({
  put: (name, bytes) => Promise.resolve(void kept.set(name, bytes)),
  get: (name) => Promise.resolve(kept.get(name) ?? null),
  delete: (name) => Promise.resolve(void kept.delete(name)),
  list: () => Promise.resolve([...kept.keys()]),
  clear: () => Promise.resolve(kept.clear()),
});

describe('bytes in IndexedDB', () => {
  it('come back as they were, are listed, and are gone once deleted', async () => {
    const bytes = await openBufferBytes('one');
    await bytes.put('a', photo);
    expect(new Uint8Array(await (await bytes.get('a'))!.arrayBuffer())).toEqual(new Uint8Array([9, 8, 7, 6]));
    expect(await bytes.list()).toEqual(['a']);
    await bytes.delete('a');
    expect([await bytes.get('a'), await bytes.list()]).toEqual([null, []]);
  });

  it('are never handed over as blobs, which some private windows refuse', async () => {
    const put = jest.spyOn(IDBObjectStore.prototype, 'put');
    await (await openBufferBytes('two')).put('a', photo);
    for (const [value] of put.mock.calls) expect(value instanceof Blob).toBe(false);
    put.mockRestore();
  });
});

describe('the place for bytes', () => {
  it('is the first that gives back what it was given', async () => {
    const broken = { ...inMemory(), put: () => Promise.reject(storageError(new DOMException('no', 'UnknownError'))) };
    const forgetful = { ...inMemory(), get: () => Promise.resolve(null) };
    const kept = new Map<string, Blob>();
    const bytes = await openKeptBytes([
      openFileBytes,
      () => Promise.resolve(broken),
      () => Promise.resolve(forgetful),
      () => Promise.resolve(inMemory(kept)),
    ]);
    await bytes.put('a', photo);
    expect([...kept.keys()]).toEqual(['a']);
    expect(await bytes.get('a')).toBe(photo);
  });

  it('still finds what an earlier start kept elsewhere', async () => {
    const before = new Map([['old', photo]]);
    const bytes = await openKeptBytes([() => Promise.resolve(inMemory()), () => Promise.resolve(inMemory(before))]);
    expect(await bytes.get('old')).toBe(photo);
    await bytes.delete('old');
    expect(before.size).toBe(0);
  });

  it('is refused with the true cause where there is none', async () => {
    const failing = (name: string) => () => Promise.reject(new DOMException('no', name));
    const codeOf = (name: string): Promise<unknown> =>
      openKeptBytes([failing(name)]).catch((error: unknown) => (error as FotoplanError).code);
    expect(await codeOf('SecurityError')).toBe('STORAGE_BLOCKED');
    expect(await codeOf('MissingAPIError')).toBe('STORAGE_PRIVATE');
    expect(await codeOf('UnknownError')).toBe('STORAGE_FAILED');
  });

  it('that is full shows what it has, and says so when something new comes', async () => {
    const full: KeptBytes = {
      ...inMemory(new Map([['old', photo]])),
      put: () => Promise.reject(storageError(new DOMException('no room', 'QuotaExceededError'))),
    };
    const bytes = await openKeptBytes([() => Promise.resolve(full)]);
    expect(await bytes.get('old')).toBe(photo);
    await expect(bytes.put('new', photo)).rejects.toMatchObject({ code: 'STORAGE_FULL' });
  });
});

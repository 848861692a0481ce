import type { KeptBytes } from '../../platform/keptBytes';
import { putOriginal } from './putOriginal';

it('writes a photo once, and again only where what lies there is not whole', async () => {
  const kept = new Map<string, Blob>();
  const puts: string[] = [];
  const bytes: KeptBytes = {
    put: (name, blob) => Promise.resolve(void (puts.push(name), kept.set(name, blob))),
    get: (name) => Promise.resolve(kept.get(name) ?? null),
    delete: (name) => Promise.resolve(void kept.delete(name)),
    list: () => Promise.resolve([...kept.keys()]),
    clear: () => Promise.resolve(kept.clear()),
  };
  const photo = new Blob(['a photo']);
  await putOriginal(bytes, 'one', photo);
  await putOriginal(bytes, 'one', photo);
  expect(puts).toEqual(['original-one']);
  kept.set('original-one', new Blob(['a ph']));
  await putOriginal(bytes, 'one', photo);
  expect(puts).toHaveLength(2);
  expect(await kept.get('original-one')!.text()).toBe('a photo');
});

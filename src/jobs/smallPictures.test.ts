import 'fake-indexeddb/auto';
import { FotoplanError } from '../../core/errors';
import type { Page } from '../../core/work/hand-in/handIn';
import { wholePhotoRecipe } from '../../core/work/recipe/plainRecipe';
import type { ApiClient } from '../data/apiClient';
import { openLocalDatabase } from '../data/localDatabase';
import type { Originals } from '../data/originals';
import { createDerivedStore } from './derivedStore';
import { createPagePictures } from './pagePictures';
import type { Scheduler } from './scheduler';
import { createSmallPictures } from './smallPictures';

Object.assign(URL, {
  createObjectURL: (blob: Blob) => `blob:${blob.size}`,
  revokeObjectURL: (url: string) => void revoked.push(url),
});
const revoked: string[] = [];
const page: Page = {
  id: 'page-1',
  originalId: 'a'.repeat(64),
  fileName: 'a.jpg',
  width: 3000,
  height: 4000,
  pdfPage: null,
  takenAtMs: null,
  leftOut: false,
  removedAtMs: null,
  findings: null,
  recipe: wholePhotoRecipe(3000, 4000, 'daylight'),
};
const watched = () => ({ priority: 'visible' as const, signal: new AbortController().signal });
/** Waits for what goes on by itself; the test's time limit ends it. */
async function until(holds: () => boolean | Promise<boolean>): Promise<void> {
  while (!(await holds())) await new Promise((resolve) => setTimeout(resolve, 1));
}
let lastDb = 0;

async function setUp(where: { readonly here: boolean; readonly onServer: boolean }) {
  const db = await openLocalDatabase(
    { onBlocked: () => undefined, onOutdated: () => undefined, onLost: () => undefined },
    `small ${++lastDb}`,
  );
  const log: string[] = [];
  const photo = new Blob([new Uint8Array(9000)]);
  const originals = {
    local: () => Promise.resolve(where.here ? photo : null),
    load: () => (log.push('original'), Promise.resolve(photo)),
  } as unknown as Originals;
  const api = {
    fetchPicture: (_id: string, _page: number, size: string) => (
      log.push(`fetch ${size}`),
      where.onServer
        ? Promise.resolve(new Blob([new Uint8Array(size === 'preview' ? 500 : 50)]))
        : Promise.reject(new FotoplanError('NOT_FOUND', 'none'))
    ),
    sendPicture: (_id: string, _page: number, size: string) => (log.push(`send ${size}`), Promise.resolve()),
  } as unknown as ApiClient;
  const scheduler = {
    run: (request: { kind: string; original: { blob: Blob } }) => {
      log.push(`${request.kind} from ${request.original.blob.size}`);
      return Promise.resolve(
        request.kind === 'pictures'
          ? { thumbnail: new Blob([new Uint8Array(60)]), preview: new Blob([new Uint8Array(600)]) }
          : { picture: new Blob([new Uint8Array(7)]), width: 270, height: 360 },
      );
    },
  } as unknown as Scheduler;
  const derived = createDerivedStore(db, () => 1);
  const restart = () => {
    const small = createSmallPictures({ derived, originals, api, scheduler });
    return { small, pictures: createPagePictures(derived, small, scheduler) };
  };
  return { log, derived, restart, ...restart() };
}

describe('small pictures', () => {
  it('are made from the photo once, and then kept', async () => {
    const { log, small, restart } = await setUp({ here: true, onServer: false });
    const [one, two] = await Promise.all([
      small.picture(page, 'thumbnail', 'visible'),
      small.picture(page, 'preview', 'visible'),
    ]);
    expect([one.size, two.size]).toEqual([60, 600]);
    expect((await restart().small.picture(page, 'preview', 'visible')).size).toBe(600);
    expect(log.filter((each) => !each.startsWith('send'))).toEqual(['original', 'pictures from 9000']);
  });

  it('come from the server where the photo is not here: a board needs thumbnails only, a page its preview, neither the photo', async () => {
    const { log, small } = await setUp({ here: false, onServer: true });
    expect((await small.source(page, 360, 'visible')).blob.size).toBe(50);
    expect((await small.source(page, 1400, 'visible')).blob.size).toBe(500);
    // a board is drawn from the better one once it is here
    expect((await small.source(page, 360, 'visible')).blob.size).toBe(500);
    expect(log).toEqual(['fetch thumbnail', 'fetch preview']);
  });

  it('are made and sent where the server has none', async () => {
    const { log, small } = await setUp({ here: false, onServer: false });
    await small.picture(page, 'thumbnail', 'visible');
    await until(() => log.includes('send preview'));
    expect(log).toEqual(['fetch thumbnail', 'original', 'pictures from 9000', 'send thumbnail', 'send preview']);
  });

  it('of a photo that is being looked at are waited for, not made a second time', async () => {
    const { log, small } = await setUp({ here: true, onServer: false });
    let tell: (made: { thumbnail: Blob; preview: Blob }) => void = () => undefined;
    small.expect(page, new Promise((resolve) => (tell = resolve)));
    const asked = small.picture(page, 'thumbnail', 'visible');
    tell({ thumbnail: new Blob(['1234']), preview: new Blob(['12345']) });
    expect((await asked).size).toBe(4);
    await small.send(page.originalId);
    expect(log).toEqual(['send thumbnail', 'send preview']);
  });
});

describe('pictures of pages', () => {
  it('are drawn once, kept over a restart, and held as long as somebody shows them', async () => {
    const { log, derived, pictures, restart } = await setUp({ here: true, onServer: false });
    const key = pictures.keyOf(page, page.recipe, 360);
    const first = await pictures.load(page, page.recipe, 360, watched());
    expect(pictures.hold(key)).toBe(first);
    pictures.release(key);
    pictures.release(key);
    expect(pictures.hold(key)).toBe(first);
    await until(async () => log.includes('send preview') && (await derived.has(key)));
    log.length = 0;
    expect(await restart().pictures.load(page, page.recipe, 360, watched())).toMatchObject({ width: 270, height: 360 });
    expect(log).toEqual([]);
  });

  it('that are drawn from a thumbnail are drawn anew once there is more', async () => {
    const { log, derived, small, pictures, restart } = await setUp({ here: false, onServer: true });
    await pictures.load(page, page.recipe, 360, watched());
    await until(() => derived.has(`${pictures.keyOf(page, page.recipe, 360)} rough`));
    await small.source(page, 1400, 'visible');
    log.length = 0;
    await restart().pictures.load(page, page.recipe, 360, watched());
    expect(log).toEqual(['render from 500']);
  });

  it('know another light from another recipe, and take marks for no other picture', async () => {
    const { pictures } = await setUp({ here: true, onServer: false });
    const key = (recipe: Page['recipe']): string => pictures.keyOf(page, recipe, 360);
    expect(key({ ...page.recipe, finish: 'press' })).not.toBe(key(page.recipe));
    expect(
      key({ ...page.recipe, marks: [{ kind: 'note', id: 'm', colour: '#1d2733', at: { x: 0, y: 0 }, text: 'x' }] }),
    ).toBe(key(page.recipe));
  });
});

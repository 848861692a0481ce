import type { PictureSize } from '../../contract/pictures';
import { FotoplanError } from '../../core/errors';
import type { Page } from '../../core/work/hand-in/handIn';
import type { ApiClient } from '../data/apiClient';
import type { Originals } from '../data/originals';
import type { DerivedStore } from './derivedStore';
import type { PhotoSource, SmallPictures as Pictures } from './jobProtocol';
import type { Priority, Scheduler } from './scheduler';

type Photographed = Pick<Page, 'originalId' | 'fileName' | 'pdfPage' | 'width' | 'height'>;

/** Previews and thumbnails of originals: made once when a photo comes, kept here and on the server, so that nothing but binding needs the whole photo. */
export interface SmallPictures {
  /** A photo as a worker needs it, as small as does for this size. */
  source(page: Photographed, longSidePx: number, priority: Priority): Promise<PhotoSource>;
  /** Whether there is more than a thumbnail on this device to draw from. */
  hasPreview(page: Photographed): Promise<boolean>;
  /** The whole photo. */
  whole(page: Photographed): Promise<PhotoSource>;
  /** A picture of this size, made or fetched where it is not here. */
  picture(page: Photographed, size: PictureSize, priority: Priority): Promise<Blob>;
  /** The pictures of a photo that is being looked at right now: who wants one waits for these instead of decoding it again. */
  expect(page: Photographed, coming: Promise<Pictures>): void;
  /** Sends what is here of an original's pictures; nothing is lost where it cannot. */
  send(originalId: string): Promise<void>;
}

/** Up to this size a page is drawn from the thumbnail where there is no preview on this device. */
const THUMBNAIL_DOES_PX = 360;
const PREVIEW_DOES_PX = 1800;
const RECENT = 6;
/** How long an original that goes up waits for its pictures to be made. */
const WAIT_FOR_PICTURES_MS = 20_000;

const keyOf = ({ originalId, pdfPage }: Pick<Page, 'originalId' | 'pdfPage'>, size: PictureSize): string =>
  `${size} ${originalId} ${pdfPage ?? 0}`;

export interface SmallPicturesOptions {
  readonly derived: DerivedStore;
  readonly originals: Originals;
  readonly api: ApiClient;
  readonly scheduler: Scheduler;
}

export function createSmallPictures({ derived, originals, api, scheduler }: SmallPicturesOptions): SmallPictures {
  const coming = new Map<string, Promise<Pictures>>();
  const fetching = new Map<string, Promise<Blob>>();
  /** The previews looked at last: a slider asks for the same one many times a second. */
  const recent = new Map<string, Blob>();

  async function keep(page: Photographed, { thumbnail, preview }: Pictures): Promise<void> {
    await derived.put(keyOf(page, 'thumbnail'), await thumbnail.arrayBuffer());
    await derived.put(keyOf(page, 'preview'), await preview.arrayBuffer());
  }
  const local = async (page: Photographed, size: PictureSize): Promise<Blob | null> => {
    const key = keyOf(page, size);
    const known = recent.get(key);
    if (known !== undefined) return known;
    const kept = await derived.get<ArrayBuffer>(key);
    if (kept === null) return null;
    const blob = new Blob([kept], { type: 'image/jpeg' });
    recent.set(key, blob);
    for (const oldest of recent.keys()) {
      if (recent.size <= RECENT) break;
      recent.delete(oldest);
    }
    return blob;
  };
  const photoKey = ({ originalId, pdfPage }: Photographed): string => `${originalId} ${pdfPage ?? 0}`;

  function expect(page: Photographed, pictures: Promise<Pictures>): void {
    const key = photoKey(page);
    const kept = pictures.then(async (made) => {
      await keep(page, made);
      return made;
    });
    coming.set(key, kept);
    kept.catch(() => undefined).finally(() => coming.get(key) === kept && coming.delete(key));
  }

  const whole = async (page: Photographed): Promise<PhotoSource> => {
    const { originalId, fileName, pdfPage, width } = page;
    return { key: photoKey(page), fileName, pdfPage, blob: await originals.load(originalId, fileName), width };
  };

  async function make(page: Photographed, priority: Priority): Promise<Pictures> {
    const key = photoKey(page);
    if (!coming.has(key))
      expect(
        page,
        whole(page).then((original) => scheduler.run({ kind: 'pictures', original }, { priority })),
      );
    const made = await coming.get(key)!;
    // those of a photo that is being found go up with it; these may come after it
    void sendOne(page).catch(() => undefined);
    return made;
  }

  async function fetched(page: Photographed, size: PictureSize): Promise<Blob> {
    const blob = await api.fetchPicture(page.originalId, page.pdfPage ?? 0, size);
    await derived.put(keyOf(page, size), await blob.arrayBuffer());
    return blob;
  }

  /** From the server, where it is there; one request at a time for each. */
  function fetchOnce(page: Photographed, size: PictureSize): Promise<Blob> {
    const key = keyOf(page, size);
    const under = fetching.get(key) ?? fetched(page, size).finally(() => fetching.delete(key));
    fetching.set(key, under);
    return under;
  }

  async function picture(page: Photographed, size: PictureSize, priority: Priority): Promise<Blob> {
    const kept = await local(page, size);
    if (kept !== null) return kept;
    const made = await coming.get(photoKey(page))?.catch(() => null);
    if (made !== undefined && made !== null) return made[size];
    if ((await originals.local(page.originalId)) === null) {
      try {
        return await fetchOnce(page, size);
      } catch (error) {
        // the device that brought the photo made none: then the photo itself has to come
        if (!(error instanceof FotoplanError) || error.code !== 'NOT_FOUND') throw error;
        return (await make(page, priority))[size];
      }
    }
    return (await make(page, priority))[size];
  }

  /** @returns whether there were any */
  async function sendOne(page: Pick<Page, 'originalId' | 'pdfPage'>): Promise<boolean> {
    for (const size of ['thumbnail', 'preview'] as const) {
      const kept = await derived.get<ArrayBuffer>(keyOf(page, size));
      if (kept === null) return false;
      await api.sendPicture(page.originalId, page.pdfPage ?? 0, size, new Blob([kept], { type: 'image/jpeg' }));
    }
    return true;
  }

  async function sendAll(originalId: string): Promise<void> {
    for (let pdfPage = 0; await sendOne({ originalId, pdfPage }); pdfPage++);
  }

  return {
    picture,
    whole,
    hasPreview: async (page) =>
      (await derived.has(keyOf(page, 'preview'))) || (await originals.local(page.originalId)) !== null,
    expect,
    async source(page, longSidePx, priority) {
      if (longSidePx > PREVIEW_DOES_PX) return whole(page);
      const { fileName, width } = page;
      const preview = await local(page, 'preview');
      if (preview !== null) return { key: keyOf(page, 'preview'), fileName, pdfPage: null, blob: preview, width };
      const size =
        longSidePx <= THUMBNAIL_DOES_PX && (await originals.local(page.originalId)) === null ? 'thumbnail' : 'preview';
      return { key: keyOf(page, size), fileName, pdfPage: null, blob: await picture(page, size, priority), width };
    },
    async send(originalId) {
      const wanted = [...coming].filter(([key]) => key.startsWith(originalId)).map(([, pictures]) => pictures);
      let timer: ReturnType<typeof setTimeout> | undefined;
      const wait = new Promise<void>((resolve) => (timer = setTimeout(resolve, WAIT_FOR_PICTURES_MS)));
      await Promise.race([Promise.allSettled(wanted), wait]);
      clearTimeout(timer);
      await sendAll(originalId).catch(() => undefined);
    },
  };
}

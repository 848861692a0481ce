/*
 * What other programs hand to the installed app: photos shared from a gallery, which the service worker has laid down
 * (assets/takeShared.js), and files opened with the app.
 */

const SHELF = 'fotoplan-shared';

/** A file handed to the app, and how to forget it once it is a page, or is not wanted. */
export interface SharedFile {
  readonly file: File;
  readonly forget: () => Promise<unknown>;
}

/** An insecure address has no such store, and no service worker to fill it. */
const shelf = (): Promise<Cache> | null => ('caches' in globalThis ? caches.open(SHELF) : null);

/** How many files were shared and not taken up yet. */
export const countShared = async (): Promise<number> => ((await (await shelf())?.keys()) ?? []).length;

/** Files shared with the app and not taken up yet, in the order in which they came. */
export async function sharedFiles(): Promise<readonly SharedFile[]> {
  const laid = await shelf();
  if (laid === null) return [];
  const keys = [...(await laid.keys())].sort((a, b) => a.url.localeCompare(b.url));
  return Promise.all(
    keys.map(async (key) => {
      const kept = (await laid.match(key))!;
      const name = decodeURIComponent(kept.headers.get('x-name') ?? '');
      const type = kept.headers.get('content-type') ?? '';
      const lastModified = Number(kept.headers.get('x-modified') ?? 0);
      const file = new File([await kept.blob()], name === '' ? 'photo' : name, { type, lastModified });
      return { file, forget: () => laid.delete(key) };
    }),
  );
}

/** For those who delete everything. */
export const forgetAllShared = async (): Promise<void> => {
  if ('caches' in globalThis) await caches.delete(SHELF);
};

interface LaunchQueue {
  setConsumer(take: (launch: { readonly files: readonly FileSystemFileHandle[] }) => void): void;
}

/**
 * Files that were opened with the app, where the browser tells of them.
 * @param take - gets the files, and the names of those that were moved or locked in the meantime
 */
export function onOpenedWith(take: (files: readonly SharedFile[], gone: readonly string[]) => void): void {
  const queue = (globalThis as { launchQueue?: LaunchQueue }).launchQueue;
  queue?.setConsumer(({ files: handles }) => {
    void Promise.allSettled(handles.map((handle) => handle.getFile())).then((results) => {
      const opened = results.flatMap((result) => (result.status === 'fulfilled' ? [result.value] : []));
      const gone = handles.filter((_, i) => results[i]!.status === 'rejected').map(({ name }) => name);
      take(
        opened.map((file) => ({ file, forget: () => Promise.resolve() })),
        gone,
      );
    });
  });
}

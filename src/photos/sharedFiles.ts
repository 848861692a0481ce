/*
 * What other programs hand to the installed app: photos shared from a gallery, which the service worker has laid down
 * (assets/takeShared.js), and files opened with the app.
 */

const SHELF = 'fotoplan-shared';

/** Files shared with the app and not taken up yet, in the order in which they came. */
export async function sharedFiles(): Promise<readonly File[]> {
  // an insecure address has no such store, and no service worker to fill it
  if (!('caches' in globalThis)) return [];
  const shelf = await caches.open(SHELF);
  const keys = [...(await shelf.keys())].sort((a, b) => a.url.localeCompare(b.url));
  return Promise.all(
    keys.map(async (key) => {
      const kept = (await shelf.match(key))!;
      const name = decodeURIComponent(kept.headers.get('x-name') ?? '');
      const type = kept.headers.get('content-type') ?? '';
      return new File([await kept.blob()], name === '' ? 'photo' : name, {
        type,
        lastModified: Number(kept.headers.get('x-modified') ?? 0),
      });
    }),
  );
}

/** Once they are pages, or are not wanted. */
export const forgetShared = async (): Promise<void> => {
  if ('caches' in globalThis) await caches.delete(SHELF);
};

interface LaunchQueue {
  setConsumer(take: (launch: { readonly files: readonly FileSystemFileHandle[] }) => void): void;
}

/** Files that were opened with the app, where the browser tells of them. */
export function onOpenedWith(take: (files: readonly File[]) => void): void {
  const queue = (globalThis as { launchQueue?: LaunchQueue }).launchQueue;
  queue?.setConsumer(({ files }) => void Promise.all(files.map((handle) => handle.getFile())).then(take));
}

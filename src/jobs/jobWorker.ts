import { toWireError } from '../../core/errors';
import { toBitmap } from '../../platform/browser/encodePicture';
import type { FromWorker, JobRequest, JobResult, ToWorker } from './jobProtocol';
import { assemble, code } from './worker/bind';
import { check } from './worker/check';
import { drawPage, fuse, picture, render, toRead } from './worker/drawPage';
import { fillGlare } from './worker/fillGlare';
import { find, inspect, pictures } from './worker/find';
import { facts, grid, look, outlines } from './worker/lookAtPage';
import { createPhotoCache } from './worker/photoCache';

/* What runs in a worker: unpacks a request, has it done, packs the answer. */

const scope = globalThis as unknown as {
  onmessage: ((event: MessageEvent<ToWorker>) => void) | null;
  postMessage(message: FromWorker, transfer?: Transferable[]): void;
};
const photos = createPhotoCache();

async function answer(id: number, request: JobRequest): Promise<JobResult> {
  const tell = (share: number): void => scope.postMessage({ id, share });
  switch (request.kind) {
    case 'check':
      return check(request);
    case 'pictures':
      return pictures(request);
    case 'find':
      return find(request, (made) => scope.postMessage({ id, pictures: made }));
    case 'inspect':
      return inspect(request);
    case 'outlines':
      return outlines(request, photos);
    case 'grid':
      return grid(request);
    case 'facts':
      return facts(request, photos);
    case 'look':
      return look(request, photos);
    case 'render':
      return render(request, photos);
    case 'toRead':
      return toRead(request, photos);
    case 'draw':
      return toBitmap(await drawPage(request, photos));
    case 'picture':
      return picture(request);
    case 'fuse':
      return fuse(request);
    case 'fillGlare':
      return fillGlare(request);
    case 'code':
      // many pages are bound in a row: what was looked at before has to make room
      photos.forget();
      return code(request, tell);
    case 'assemble':
      return assemble(request);
  }
}

scope.onmessage = ({ data: { id, request } }) => {
  answer(id, request).then(
    (result) => scope.postMessage({ id, ok: true, result }, result instanceof ImageBitmap ? [result] : []),
    (error: unknown) =>
      scope.postMessage({
        id,
        ok: false,
        error: toWireError(error, 'This page could not be worked on. Reload and try again; nothing is lost.'),
      }),
  );
};

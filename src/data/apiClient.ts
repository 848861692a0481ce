import { DEVICE_HEADER } from '../../contract/deviceHeader';
import type { PictureSize } from '../../contract/pictures';
import { UPLOAD_PART_BYTES } from '../../contract/uploadParts';
import type {
  AppliedView,
  BoundFileFacts,
  BoundFileView,
  ChangesView,
  JoinView,
  LinkCodeView,
  OriginalsView,
  PracticePhotosView,
  ProfileView,
  RecoveryCodeView,
  RecoveryView,
  ScreenView,
  UploadView,
} from '../../contract/views';
import { ERROR_CODES, FotoplanError, type ErrorCode } from '../../core/errors';
import type { HandIn } from '../../core/work/hand-in/handIn';
import type { Operation } from '../../core/work/hand-in/operation';
import { hashOf } from '../../platform/hashOf';

/** What fits into an address; a file of hundreds of pages goes without its facts, and another screen binds again. */
const MAX_FACTS = 6000;
/** A line may be slow (64 kbit/s), but one on which nothing comes for longer than this is dead. */
const PATIENCE_MS = 60_000;
const SLOWEST_BYTES_PER_MS = 8;

/**
 * What the app asks of the server. Every call rejects with FotoplanError: OFFLINE when no answer came, ANSWER_UNREADABLE when
 * something else than our server answered (a proxy, the login page of a network), else what the server says.
 */
export interface ApiClient {
  changes(since: number): Promise<ChangesView>;
  handIn(id: string): Promise<HandIn>;
  sendOperations(operations: readonly Operation[]): Promise<AppliedView>;
  /** Large ones go in parts: what has arrived before a break need not go again. */
  sendOriginal(sha256: string, bytes: Blob): Promise<void>;
  fetchOriginal(sha256: string): Promise<Blob>;
  /** Which of these the server has. */
  haveOriginals(ids: readonly string[]): Promise<readonly string[]>;
  sendPicture(originalId: string, pdfPage: number, size: PictureSize, bytes: Blob): Promise<void>;
  fetchPicture(originalId: string, pdfPage: number, size: PictureSize): Promise<Blob>;
  sendBoundFile(
    handInId: string,
    file: { id: string; name: string; pages: number; sha256: string; blob: Blob; facts: BoundFileFacts },
  ): Promise<void>;
  boundFiles(handInId: string): Promise<readonly BoundFileView[]>;
  fetchBoundFile(id: string): Promise<Blob>;
  profile(): Promise<ProfileView | null>;
  sendProfile(profile: ProfileView): Promise<void>;
  screens(): Promise<readonly ScreenView[]>;
  linkCode(): Promise<LinkCodeView>;
  /** Whose work a code joins. */
  lookAtLink(code: string): Promise<JoinView>;
  link(code: string): Promise<void>;
  cutOff(screenId: string): Promise<void>;
  recovery(): Promise<RecoveryView>;
  makeRecoveryCode(): Promise<RecoveryCodeView>;
  recover(code: string): Promise<void>;
  deleteEverything(word: string): Promise<void>;
  practicePhotos(): Promise<PracticePhotosView['photos']>;
  /** The bare desk first, then each page on it. */
  practiceTable(): Promise<PracticePhotosView['photos']>;
}

/**
 * @param deviceKey - by which the server knows this device when its cookie was lost
 * @param patienceMs - how long a request may wait for anything to come, beside what its bytes take on the slowest line
 */
export function createApiClient(send: typeof fetch, deviceKey: string, patienceMs = PATIENCE_MS): ApiClient {
  /** A request that never settles would hold up all that waits behind it: it is broken off, and counts as no connection. */
  const call = async <T>(
    path: string,
    init: RequestInit | undefined,
    read: (response: Response) => Promise<T>,
  ): Promise<T> => {
    const breaker = new AbortController();
    const allow = (bytes: number): ReturnType<typeof setTimeout> =>
      setTimeout(() => breaker.abort(), patienceMs + bytes / SLOWEST_BYTES_PER_MS);
    let limit = allow(init?.body instanceof Blob ? init.body.size : 0);
    try {
      const response = await send(path, {
        ...init,
        signal: breaker.signal,
        headers: { ...(init?.headers as Record<string, string>), [DEVICE_HEADER]: deviceKey },
      }).catch((cause: unknown) => {
        throw new FotoplanError(
          'OFFLINE',
          'No connection. Everything is kept on this device and goes up later.',
          {},
          { cause },
        );
      });
      clearTimeout(limit);
      limit = allow(Number(response.headers.get('content-length') ?? 0));
      // a proxy or a stopping server answers 502 to 504: as good as no answer
      if (response.status >= 502 && response.status <= 504)
        throw new FotoplanError(
          'OFFLINE',
          'The server does not answer. Everything is kept on this device and goes up later.',
        );
      if (!response.ok) throw await readError(response);
      return await read(response);
    } finally {
      clearTimeout(limit);
    }
  };
  /** @param isOurs - tells the server's answer from a page that a network put in its place with status 200 */
  const json = <T>(path: string, isOurs: (body: Partial<T>) => boolean, init?: RequestInit): Promise<T> =>
    call(path, init, async (response) => {
      const text = await response.text().catch(brokeOff);
      const body = parsed(text) as Partial<T> | null;
      if (body === null || typeof body !== 'object' || !isOurs(body)) throw unreadable(response.status);
      return body as T;
    });
  const written = (path: string, status: number, init: RequestInit): Promise<void> =>
    call(path, init, (response) =>
      response.status === status ? Promise.resolve() : Promise.reject(unreadable(response.status)),
    );
  const body = (method: 'POST' | 'PUT', value: unknown): RequestInit => ({
    method,
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(value),
  });
  const bytes = (blob: Blob, type = 'application/octet-stream'): RequestInit => ({
    method: 'PUT',
    headers: { 'content-type': type },
    body: blob,
  });
  const blob = (path: string, isType: (type: string) => boolean): Promise<Blob> =>
    call(path, undefined, (response) => {
      if (!isType(response.headers.get('content-type') ?? '')) throw unreadable(response.status);
      return response.blob().catch(brokeOff);
    });
  const notHtml = (type: string): boolean => !type.startsWith('text/html');
  const isOriginal = ({ sha256: hash }: { readonly sha256?: string }): boolean => typeof hash === 'string';
  return {
    changes: (since) =>
      json<ChangesView>(
        `/api/changes?since=${since}`,
        ({ upTo, handIns }) => typeof upTo === 'number' && Array.isArray(handIns),
      ),
    handIn: (id) => json<HandIn>(`/api/hand-ins/${encodeURIComponent(id)}`, ({ pages }) => Array.isArray(pages)),
    sendOperations: (operations) =>
      json<AppliedView>('/api/operations', ({ seq }) => typeof seq === 'number', body('POST', { operations })),
    sendOriginal: async (id, photo) => {
      if (photo.size <= UPLOAD_PART_BYTES) return void (await json(`/api/originals/${id}`, isOriginal, bytes(photo)));
      const { parts } = await json<UploadView>(`/api/originals/${id}/parts`, (view) => Array.isArray(view.parts));
      for (let seq = 0; seq * UPLOAD_PART_BYTES < photo.size; seq++) {
        if (!parts.includes(seq))
          await written(
            `/api/originals/${id}/parts/${seq}`,
            204,
            bytes(photo.slice(seq * UPLOAD_PART_BYTES, (seq + 1) * UPLOAD_PART_BYTES)),
          );
      }
      await json(`/api/originals/${id}/done`, isOriginal, { method: 'POST' });
    },
    fetchOriginal: async (id) => {
      const photo = await blob(`/api/originals/${id}`, notHtml);
      // kept as this photo for good, so it must be this photo
      if ((await hashOf(new Uint8Array(await photo.arrayBuffer()))) !== id) throw unreadable(200);
      return photo;
    },
    haveOriginals: async (ids) =>
      (await json<OriginalsView>('/api/originals', ({ have }) => Array.isArray(have), body('POST', { ids }))).have,
    sendPicture: (id, page, size, picture) =>
      written(`/api/originals/${id}/pictures/${page}/${size}`, 204, bytes(picture, 'image/jpeg')),
    fetchPicture: (id, page, size) =>
      blob(`/api/originals/${id}/pictures/${page}/${size}`, (type) => type.startsWith('image/jpeg')),
    sendBoundFile: async (handInId, { id, name, pages, sha256: hash, blob: file, facts }) => {
      const told = JSON.stringify(facts);
      const query = new URLSearchParams({
        name,
        pages: String(pages),
        sha256: hash,
        ...(told.length <= MAX_FACTS ? { facts: told } : {}),
      });
      await json(
        `/api/hand-ins/${handInId}/bound-files/${id}?${query.toString()}`,
        isOriginal,
        bytes(file, 'application/pdf'),
      );
    },
    boundFiles: async (handInId) =>
      (
        await json<{ files: readonly BoundFileView[] }>(`/api/hand-ins/${handInId}/bound-files`, ({ files }) =>
          Array.isArray(files),
        )
      ).files,
    fetchBoundFile: (id) => blob(`/api/bound-files/${id}`, (type) => type.startsWith('application/pdf')),
    profile: async () =>
      (await json<{ profile: ProfileView | null }>('/api/profile', (view) => view.profile !== undefined)).profile,
    sendProfile: async (profile) => {
      await json<{ profile: ProfileView }>('/api/profile', (view) => view.profile !== undefined, body('PUT', profile));
    },
    screens: async () =>
      (await json<{ screens: readonly ScreenView[] }>('/api/screens', ({ screens }) => Array.isArray(screens))).screens,
    linkCode: () => json<LinkCodeView>('/api/link-codes', ({ code }) => typeof code === 'string', body('POST', {})),
    lookAtLink: (code) =>
      json<JoinView>('/api/link/look', ({ handIns }) => typeof handIns === 'number', body('POST', { code })),
    link: async (code) => {
      await json<{ linked: boolean }>('/api/link', ({ linked }) => linked === true, body('POST', { code }));
    },
    cutOff: (screenId) => written(`/api/screens/${screenId}`, 204, { method: 'DELETE' }),
    recovery: () => json<RecoveryView>('/api/recovery-code', ({ madeAtMs }) => madeAtMs !== undefined),
    makeRecoveryCode: () =>
      json<RecoveryCodeView>('/api/recovery-code', ({ words }) => Array.isArray(words), body('POST', {})),
    recover: async (code) => {
      await json<{ recovered: boolean }>('/api/recover', ({ recovered }) => recovered === true, body('POST', { code }));
    },
    deleteEverything: (word) => written('/api/delete-everything', 204, body('POST', { word })),
    practicePhotos: async () =>
      (await json<PracticePhotosView>('/api/practice-photos', ({ photos }) => Array.isArray(photos))).photos,
    practiceTable: async () =>
      (await json<PracticePhotosView>('/api/practice-table', ({ photos }) => Array.isArray(photos))).photos,
  };
}

const brokeOff = (cause: unknown): never => {
  throw new FotoplanError(
    'OFFLINE',
    'The connection broke while an answer was coming. It is asked for again when it is needed.',
    {},
    { cause },
  );
};
function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}

const unreadable = (status: number): FotoplanError =>
  new FotoplanError(
    'ANSWER_UNREADABLE',
    `Something on the way answered in place of the server (status ${status}). Check that this network lets you through.`,
    { status },
  );

/** Reads a refusal; what is not our server's own is ANSWER_UNREADABLE. Facts: status, and retryAfterS where it is told in seconds. */
export async function readError(response: Response): Promise<FotoplanError> {
  const body = (await response.json().catch(() => null)) as {
    code?: unknown;
    message?: unknown;
    facts?: Record<string, string | number>;
  } | null;
  const after = Number(response.headers.get('retry-after') ?? NaN);
  const facts = { status: response.status, ...(Number.isFinite(after) && after >= 0 ? { retryAfterS: after } : {}) };
  if (!ERROR_CODES.includes(body?.code as ErrorCode) || typeof body?.message !== 'string') {
    const strange = unreadable(response.status);
    return new FotoplanError(strange.code, strange.message, facts);
  }
  return new FotoplanError(body.code as ErrorCode, body.message, { ...body.facts, ...facts });
}

import { ERROR_CODES, FotoplanError, type ErrorCode } from '../../core/errors';
import type { HandIn } from '../../core/handIn/handIn';
import type { Operation } from '../../core/handIn/operation';
import { UPLOAD_PART_BYTES } from '../../contract/uploadParts';
import type { BoundFileFacts, BoundFileView, HandInsView, LinkCodeView, PracticePhotosView, ProfileView, ScreenView, UploadView } from '../../contract/views';

/** What fits into an address; a file of hundreds of pages goes without its facts, and another screen binds again. */
const MOST_FACTS = 6000;

/** What the app asks of the server. Every call rejects with FotoplanError; OFFLINE when no answer came. */
export interface ApiClient {
  handIns(): Promise<readonly HandIn[]>;
  handIn(id: string): Promise<HandIn>;
  sendOperations(operations: readonly Operation[]): Promise<void>;
  /** Large ones go in parts: what has arrived before a break need not go again. */
  sendOriginal(sha256: string, bytes: Blob): Promise<void>;
  fetchOriginal(sha256: string): Promise<Blob>;
  sendBoundFile(handInId: string, file: { id: string; name: string; pages: number; sha256: string; blob: Blob; facts: BoundFileFacts }): Promise<void>;
  boundFiles(handInId: string): Promise<readonly BoundFileView[]>;
  fetchBoundFile(id: string): Promise<Blob>;
  profile(): Promise<ProfileView | null>;
  sendProfile(profile: ProfileView): Promise<void>;
  screens(): Promise<readonly ScreenView[]>;
  linkCode(): Promise<LinkCodeView>;
  link(code: string): Promise<void>;
  cutOff(screenId: string): Promise<void>;
  practicePhotos(): Promise<PracticePhotosView['photos']>;
  /** The bare desk first, then each page on it. */
  practiceTable(): Promise<PracticePhotosView['photos']>;
}

export function createApiClient(send: typeof fetch): ApiClient {
  const call = async (path: string, init?: RequestInit): Promise<Response> => {
    const response = await send(path, init).catch((cause: unknown) => {
      throw new FotoplanError('OFFLINE', 'No connection. Everything is kept on this device and goes up later.', {}, { cause });
    });
    // a proxy or a stopping server answers 502 to 504: as good as no answer
    if (response.status >= 502 && response.status <= 504) throw new FotoplanError('OFFLINE', 'The server does not answer. Everything is kept on this device and goes up later.');
    if (!response.ok) throw await readError(response);
    return response;
  };
  const json = async <T>(path: string): Promise<T> => (await (await call(path)).json()) as T;
  const write = (path: string, method: 'POST' | 'PUT', body: unknown): Promise<Response> => call(path, { method, headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
  return {
    handIns: async () => (await json<HandInsView>('/api/hand-ins')).handIns,
    handIn: (id) => json(`/api/hand-ins/${encodeURIComponent(id)}`),
    sendOperations: async (operations) => {
      await write('/api/operations', 'POST', { operations });
    },
    sendOriginal: async (sha256, bytes) => {
      const put = (path: string, body: Blob): Promise<Response> => call(path, { method: 'PUT', headers: { 'content-type': 'application/octet-stream' }, body });
      if (bytes.size <= UPLOAD_PART_BYTES) return void (await put(`/api/originals/${sha256}`, bytes));
      const { parts } = await json<UploadView>(`/api/originals/${sha256}/parts`);
      for (let seq = 0; seq * UPLOAD_PART_BYTES < bytes.size; seq++) {
        if (!parts.includes(seq)) await put(`/api/originals/${sha256}/parts/${seq}`, bytes.slice(seq * UPLOAD_PART_BYTES, (seq + 1) * UPLOAD_PART_BYTES));
      }
      await call(`/api/originals/${sha256}/done`, { method: 'POST' });
    },
    fetchOriginal: async (sha256) => (await call(`/api/originals/${sha256}`)).blob(),
    sendBoundFile: async (handInId, { id, name, pages, sha256, blob, facts }) => {
      const told = JSON.stringify(facts);
      const query = new URLSearchParams({ name, pages: String(pages), sha256, ...(told.length <= MOST_FACTS ? { facts: told } : {}) });
      await call(`/api/hand-ins/${handInId}/bound-files/${id}?${query.toString()}`, { method: 'PUT', headers: { 'content-type': 'application/pdf' }, body: blob });
    },
    boundFiles: async (handInId) => (await json<{ files: readonly BoundFileView[] }>(`/api/hand-ins/${handInId}/bound-files`)).files,
    fetchBoundFile: async (id) => (await call(`/api/bound-files/${id}`)).blob(),
    profile: async () => (await json<{ profile: ProfileView | null }>('/api/profile')).profile,
    sendProfile: async (profile) => {
      await write('/api/profile', 'PUT', profile);
    },
    screens: async () => (await json<{ screens: readonly ScreenView[] }>('/api/screens')).screens,
    linkCode: async () => (await (await write('/api/link-codes', 'POST', {})).json()) as LinkCodeView,
    link: async (code) => {
      await write('/api/link', 'POST', { code });
    },
    cutOff: async (screenId) => {
      await call(`/api/screens/${screenId}`, { method: 'DELETE' });
    },
    practicePhotos: async () => (await json<PracticePhotosView>('/api/practice-photos')).photos,
    practiceTable: async () => (await json<PracticePhotosView>('/api/practice-table')).photos,
  };
}

export async function readError(response: Response): Promise<FotoplanError> {
  const body = (await response.json().catch(() => null)) as { code?: string; message?: string } | null;
  const code = ERROR_CODES.includes(body?.code as ErrorCode) ? (body!.code as ErrorCode) : 'INTERNAL';
  return new FotoplanError(code, body?.message ?? 'The server gave no usable answer. Try again in a minute.', { status: response.status });
}

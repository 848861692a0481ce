import { ERROR_CODES, FotoplanError, type ErrorCode } from '../../core/errors';
import type { HandIn } from '../../core/handIn/handIn';
import type { Operation } from '../../core/handIn/operation';
import type { HandInsView, PracticePhotosView } from '../../contract/views';

/** What the app asks of the server. Every call rejects with FotoplanError; OFFLINE when no answer came. */
export interface ApiClient {
  handIns(): Promise<readonly HandIn[]>;
  sendOperations(operations: readonly Operation[]): Promise<void>;
  sendOriginal(sha256: string, bytes: Blob): Promise<void>;
  fetchOriginal(sha256: string): Promise<Blob>;
  sendBoundFile(handInId: string, file: { id: string; name: string; pages: number; sha256: string; blob: Blob }): Promise<void>;
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
  return {
    handIns: async () => (await json<HandInsView>('/api/hand-ins')).handIns,
    sendOperations: async (operations) => {
      await call('/api/operations', { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ operations }) });
    },
    sendOriginal: async (sha256, bytes) => {
      await call(`/api/originals/${sha256}`, { method: 'PUT', headers: { 'content-type': 'application/octet-stream' }, body: bytes });
    },
    fetchOriginal: async (sha256) => (await call(`/api/originals/${sha256}`)).blob(),
    sendBoundFile: async (handInId, { id, name, pages, sha256, blob }) => {
      const query = new URLSearchParams({ name, pages: String(pages), sha256 });
      await call(`/api/hand-ins/${handInId}/bound-files/${id}?${query.toString()}`, { method: 'PUT', headers: { 'content-type': 'application/pdf' }, body: blob });
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

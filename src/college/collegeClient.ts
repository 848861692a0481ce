import { readError } from '../data/apiClient';
import type { OfficeSessionView } from '../../contract/officeViews';
import { FotoplanError } from '../../core/errors';
import type { OfficeAccount } from '../../core/work/office/assignment';

/* What the app asks of the college's services. They are others' and may be away; each has its own sign-in. */

export type CollegeService = 'office' | 'locker' | 'post';

/** Told by the service's name in the facts; a sentence about it is in errorText. */
const unreachable = (service: CollegeService, cause?: unknown): FotoplanError =>
  new FotoplanError(
    'SERVICE_UNREACHABLE',
    'The service cannot be reached. Try again when there is a connection.',
    { service },
    { cause },
  );

export async function callCollege(service: CollegeService, path: string, init?: RequestInit): Promise<Response> {
  const response = await fetch(`/${service}/api${path}`, init).catch((cause: unknown) => {
    throw unreachable(service, cause);
  });
  if (!response.ok) throw await readError(response);
  return response;
}

export const collegeJson = async <T>(service: CollegeService, path: string, init?: RequestInit): Promise<T> =>
  (await (await callCollege(service, path, init)).json()) as T;

export const accountAt = async (service: CollegeService): Promise<OfficeAccount | null> =>
  (await collegeJson<OfficeSessionView>(service, '/session')).account;
export const signInAt = (service: CollegeService, number: string, pin: string): Promise<Response> =>
  callCollege(service, '/session', {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ number, pin }),
  });
export const signOutAt = (service: CollegeService): Promise<Response> =>
  callCollege(service, '/session', { method: 'DELETE' });

export interface FormToSend {
  readonly service: CollegeService;
  readonly path: string;
  readonly values: Readonly<Record<string, string>>;
  readonly file: Blob;
  readonly fileName: string;
  readonly onProgress: (share: number) => void;
  readonly signal: AbortSignal;
}

/** Sends a file as a form, telling how much of it has gone; fetch does not tell that. */
export function sendForm<T>({ service, path, values, file, fileName, onProgress, signal }: FormToSend): Promise<T> {
  return new Promise((resolve, reject) => {
    const form = new FormData();
    for (const [name, value] of Object.entries(values)) form.set(name, value);
    form.set('file', file, fileName);
    const request = new XMLHttpRequest();
    request.open('POST', `/${service}/api${path}`);
    request.upload.onprogress = ({ loaded, total }) => onProgress(total > 0 ? loaded / total : 0);
    request.onerror = () => reject(unreachable(service));
    request.onabort = () =>
      reject(new FotoplanError('CANCELLED', 'Stopped before all of it was there. Nothing was sent.'));
    request.onload = () => {
      if (request.status >= 200 && request.status < 300) resolve(JSON.parse(request.responseText) as T);
      else void readError(new Response(request.responseText, { status: request.status })).then(reject);
    };
    signal.addEventListener('abort', () => request.abort(), { once: true });
    request.send(form);
  });
}

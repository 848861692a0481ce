import { FotoplanError } from '../../core/errors';
import type { Assignment, OfficeAccount, Receipt } from '../../core/ready/assignment';
import type { AssignmentsView, OfficeSessionView, ReceiptsView, TicketView } from '../../contract/officeViews';
import { readError } from '../api/apiClient';

/* What the app asks of the course office. It is another service: it has its own sign-in, and it may be away. */

const AWAY = 'The course office cannot be reached. Your file is kept here; try again when there is a connection.';

async function call(path: string, init?: RequestInit): Promise<Response> {
  const response = await fetch(`/office/api${path}`, init).catch((cause: unknown) => {
    throw new FotoplanError('OFFLINE', AWAY, {}, { cause });
  });
  if (!response.ok) throw await readError(response);
  return response;
}
const json = async <T>(path: string, init?: RequestInit): Promise<T> => (await (await call(path, init)).json()) as T;

export const officeAccount = async (): Promise<OfficeAccount | null> => (await json<OfficeSessionView>('/session')).account;
export const officeAssignments = async (): Promise<readonly Assignment[]> => (await json<AssignmentsView>('/assignments')).assignments;
export const officeReceipts = async (): Promise<readonly Receipt[]> => (await json<ReceiptsView>('/submissions')).receipts;
export const officeSignIn = (number: string, pin: string): Promise<Response> => call('/session', { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ number, pin }) });
export const officeSignOut = (): Promise<Response> => call('/session', { method: 'DELETE' });
export const withdrawAtOffice = (submissionId: string): Promise<Receipt> => json(`/submissions/${submissionId}/withdraw`, { method: 'POST' });
export const officeTicket = (submissionId: string): Promise<TicketView> => json(`/tickets/${submissionId}`);

export interface Sending {
  readonly assignmentId: string;
  /** The same key sent twice is one submission. */
  readonly key: string;
  readonly file: Blob;
  readonly fileName: string;
  readonly sha256: string;
  readonly comment: string;
  readonly fields: Readonly<Record<string, string>>;
}

/** Sends a file as a form, telling how much of it has gone; fetch does not tell that. */
export function sendToOffice({ assignmentId, key, file, fileName, sha256, comment, fields }: Sending, onProgress: (share: number) => void, signal: AbortSignal): Promise<TicketView> {
  return new Promise((resolve, reject) => {
    const form = new FormData();
    form.set('key', key);
    form.set('sha256', sha256);
    form.set('fileName', fileName);
    form.set('comment', comment);
    form.set('fields', JSON.stringify(fields));
    form.set('file', file, fileName);
    const request = new XMLHttpRequest();
    request.open('POST', `/office/api/assignments/${encodeURIComponent(assignmentId)}/submissions`);
    request.upload.onprogress = ({ loaded, total }) => onProgress(total > 0 ? loaded / total : 0);
    request.onerror = () => reject(new FotoplanError('OFFLINE', AWAY));
    request.onabort = () => reject(new FotoplanError('CANCELLED', 'Stopped before the office had the file. Nothing was handed in.'));
    request.onload = () => {
      if (request.status >= 200 && request.status < 300) resolve(JSON.parse(request.responseText) as TicketView);
      else void readError(new Response(request.responseText, { status: request.status })).then(reject);
    };
    signal.addEventListener('abort', () => request.abort(), { once: true });
    request.send(form);
  });
}

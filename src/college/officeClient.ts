import type { Assignment, Receipt } from '../../core/work/office/assignment';
import type { AssignmentsView, ReceiptsView, TicketView, UploadedView } from '../../contract/officeViews';
import { collegeJson, sendForm } from './collegeClient';

export const officeAssignments = async (): Promise<readonly Assignment[]> =>
  (await collegeJson<AssignmentsView>('office', '/assignments')).assignments;
export const officeReceipts = async (): Promise<readonly Receipt[]> =>
  (await collegeJson<ReceiptsView>('office', '/submissions')).receipts;
export const withdrawAtOffice = (submissionId: string): Promise<Receipt> =>
  collegeJson('office', `/submissions/${submissionId}/withdraw`, { method: 'POST' });
export const officeTicket = (submissionId: string): Promise<TicketView> =>
  collegeJson('office', `/tickets/${submissionId}`);

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

/** Sends a file, or of one whose sending broke off what the office does not have yet. */
export async function sendToOffice(
  { assignmentId, key, file, fileName, sha256, comment, fields }: Sending,
  onProgress: (share: number) => void,
  signal: AbortSignal,
): Promise<TicketView> {
  const { received } = await collegeJson<UploadedView>('office', `/uploads/${encodeURIComponent(key)}`);
  const from = Math.min(received, file.size);
  return sendForm<TicketView>({
    service: 'office',
    path: `/assignments/${encodeURIComponent(assignmentId)}/submissions`,
    // the key and the offset are read before the file
    values: { key, offset: String(from), sha256, fileName, comment, fields: JSON.stringify(fields) },
    file: file.slice(from),
    fileName,
    onProgress: (share) => onProgress((from + share * (file.size - from)) / Math.max(1, file.size)),
    signal,
  });
}

import type { Assignment, OfficeAccount, Receipt } from '../core/work/office/assignment';

/** What the course office answers. */
export interface OfficeSessionView {
  readonly account: OfficeAccount | null;
}
export interface AssignmentsView {
  readonly assignments: readonly Assignment[];
}
export interface ReceiptsView {
  readonly receipts: readonly Receipt[];
}
/** What became of a file that was sent. */
export type TicketView =
  | { readonly state: 'queued'; readonly submissionId: string }
  | { readonly state: 'accepted'; readonly submissionId: string; readonly receipt: Receipt }
  | { readonly state: 'refused'; readonly submissionId: string; readonly message: string };
/** How much of a file that was being sent has arrived: the rest is sent from there. */
export interface UploadedView {
  readonly received: number;
}

import type { NamePattern } from '../naming/namePattern';

/** What a course asks for, as its office says it. */
export interface Assignment {
  readonly id: string;
  readonly courseCode: string;
  readonly course: string;
  readonly title: string;
  readonly asks: string;
  readonly leastPages: number;
  readonly mostPages: number;
  readonly maxBytes: number;
  /** How the file is to be named; null leaves it to the student. */
  readonly name: NamePattern | null;
  readonly dueMs: number;
  /** How long after that it is still taken, as late. */
  readonly graceMs: number;
  readonly attempts: number;
  /** What must be told besides the file. */
  readonly fields: readonly { readonly key: string; readonly label: string }[];
  readonly marking: string;
}

/** The student's own account at the course office. */
export interface OfficeAccount {
  readonly id: string;
  readonly first: string;
  readonly family: string;
  readonly number: string;
}

/** Proof that a file arrived. */
export interface Receipt {
  readonly submissionId: string;
  readonly assignmentId: string;
  readonly number: string;
  readonly attempt: number;
  readonly fileName: string;
  readonly bytes: number;
  readonly pages: number;
  readonly sha256: string;
  readonly atMs: number;
  readonly late: boolean;
  readonly comment: string;
  readonly withdrawn: boolean;
  /** What the reader wrote back, page 0 for the whole. */
  readonly notes: readonly { readonly page: number; readonly text: string }[];
}

/** Whether an assignment still takes work, and how. */
export function standing(
  { dueMs, graceMs }: Pick<Assignment, 'dueMs' | 'graceMs'>,
  nowMs: number,
): 'open' | 'late' | 'closed' {
  if (nowMs <= dueMs) return 'open';
  return nowMs <= dueMs + graceMs ? 'late' : 'closed';
}

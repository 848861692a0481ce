import { standing, type Assignment } from '../office/assignment';

/** A file as it is handed in, or would be. */
export interface Submission {
  /** Null where there is no file yet. */
  readonly file: { readonly bytes: number; readonly name: string } | null;
  /** The name that the assignment's convention gives; null where there is none or too little is known. */
  readonly wantedName: string | null;
  readonly fields: Readonly<Record<string, string>>;
  /** Handed in before, and not withdrawn. */
  readonly attemptsUsed: number;
  readonly nowMs: number;
}

export type BrokenRule =
  | { readonly rule: 'closed' | 'size' | 'attempts' }
  | { readonly rule: 'name'; readonly wanted: string }
  | { readonly rule: 'field'; readonly key: string; readonly label: string };

/** Which of an assignment's rules a submission breaks, in the order in which the office looks. The office refuses by these, and the ready check warns of them. */
export function brokenRules(
  { file, wantedName, fields, attemptsUsed, nowMs }: Submission,
  assignment: Assignment,
): readonly BrokenRule[] {
  const broken: BrokenRule[] = [];
  if (standing(assignment, nowMs) === 'closed') broken.push({ rule: 'closed' });
  if (file !== null && file.bytes > assignment.maxBytes) broken.push({ rule: 'size' });
  if (file !== null && wantedName !== null && wantedName !== file.name)
    broken.push({ rule: 'name', wanted: wantedName });
  for (const { key, label } of assignment.fields)
    if ((fields[key] ?? '').trim() === '') broken.push({ rule: 'field', key, label });
  if (attemptsUsed >= assignment.attempts) broken.push({ rule: 'attempts' });
  return broken;
}

import { createHash, randomBytes } from 'node:crypto';
import { FotoplanError } from '../../core/errors';
import { nameByPattern } from '../../core/work/naming/namePattern';
import { standing, type Assignment } from '../../core/work/office/assignment';
import { brokenRules } from '../../core/work/ready/rules';
import type { SubmissionBody, Weather } from '../../contract/officeBodies';
import type { FileChecks } from '../fileChecks/fileChecks';
import type { OfficeRepository, SignedIn, SubmissionRow } from './officeRepository';

/** How long the office looks at a file, by its weather. */
const QUEUE_MS: Readonly<Record<Weather, number>> = { calm: 250, slow: 5000, refusing: 250, down: 0, dropping: 250 };

/** Takes a file in: the same key twice is the same submission. What is wrong with it is said once it was looked at. */
export async function takeSubmission(
  office: OfficeRepository,
  account: SignedIn,
  assignment: Assignment,
  body: SubmissionBody,
  file: Uint8Array,
  fileChecks: FileChecks,
  weather: Weather,
  nowMs: number,
): Promise<SubmissionRow> {
  const known = office.byKey(account.id, body.key);
  if (known !== null) return known;
  const fields = readFields(body.fields);
  const pages = await pagesOf(file, fileChecks);
  // counted and kept in one step: of many that come at once each is an attempt of its own
  return office.transaction(() => {
    const meanwhile = office.byKey(account.id, body.key);
    if (meanwhile !== null) return meanwhile;
    const attempt = office.taken(account.id, assignment.id) + 1;
    const refusal =
      weather === 'refusing'
        ? 'The office is not taking files just now. Yours is not lost: hand it in again in a few minutes.'
        : whyRefused({ account, assignment, body, file, fields, attempt, pages, nowMs });
    const row: Omit<SubmissionRow, 'id'> = {
      assignment_id: assignment.id,
      account_id: account.id,
      state: 'queued',
      ready_at_ms: nowMs + QUEUE_MS[weather],
      refusal,
      attempt,
      receipt_number: `SP-${randomBytes(4).toString('hex').toUpperCase()}`,
      file_name: body.fileName,
      bytes: file.length,
      pages: pages ?? 0,
      sha256: body.sha256,
      fields: JSON.stringify(fields),
      comment: body.comment ?? '',
      late: standing(assignment, nowMs) === 'late' ? 1 : 0,
      at_ms: nowMs,
    };
    // what was refused is nobody's: it is sent again, right
    return { ...row, id: office.add(row, body.key, refusal === null ? file : new Uint8Array()) };
  });
}

function readFields(text: string | undefined): Record<string, string> {
  try {
    const read: unknown = JSON.parse(text ?? '{}');
    if (typeof read !== 'object' || read === null || Array.isArray(read)) throw new Error('no object');
    return Object.fromEntries(
      Object.entries(read).map(([key, value]) => [key.slice(0, 40), String(value).slice(0, 200)]),
    );
  } catch (cause) {
    throw new FotoplanError('BODY_INVALID', 'fields must be a JSON object of words.', {}, { cause });
  }
}

async function pagesOf(file: Uint8Array, fileChecks: FileChecks): Promise<number | null> {
  if (Buffer.from(file.subarray(0, 5)).toString('latin1') !== '%PDF-') return null;
  return fileChecks.pdfPages(file).catch(() => null);
}

interface Sent {
  readonly account: SignedIn;
  readonly assignment: Assignment;
  readonly body: SubmissionBody;
  readonly file: Uint8Array;
  readonly fields: Readonly<Record<string, string>>;
  readonly attempt: number;
  readonly pages: number | null;
  readonly nowMs: number;
}

/** In a sentence with the way on, or null where the office takes it. */
function whyRefused({ account, assignment, body, file, fields, attempt, pages, nowMs }: Sent): string | null {
  const submission = {
    file: { bytes: file.length, name: body.fileName },
    wantedName: wantedName(account, assignment, attempt, nowMs),
    fields,
    attemptsUsed: attempt - 1,
    nowMs,
  };
  const [broken] = brokenRules(submission, assignment);
  if (broken?.rule === 'closed') return `“${assignment.title}” is closed. Write to the course.`;
  if (createHash('sha256').update(file).digest('hex') !== body.sha256)
    return 'The file is not the one that was checked: it changed on its way. Hand it in again.';
  if (pages === null) return 'This is not a PDF that can be opened. Hand in the PDF itself.';
  switch (broken?.rule) {
    case undefined:
      return null;
    case 'size':
      return `The file has ${(file.length / 1e6).toFixed(2)} MB; ${assignment.maxBytes / 1e6} MB are allowed. Bind it under that limit.`;
    case 'name':
      return `The file must be called “${broken.wanted}”. Rename it and hand it in again.`;
    case 'field':
      return `${broken.label} is missing. Fill it in and hand it in again.`;
    case 'attempts':
      return `All ${assignment.attempts} attempts are used. Withdraw the last one first.`;
  }
}

function wantedName(
  { family, first, number }: SignedIn,
  { name, courseCode, title }: Assignment,
  attempt: number,
  nowMs: number,
): string | null {
  if (name === null) return null;
  const day = new Date(nowMs);
  return nameByPattern(name, {
    family,
    first,
    number,
    course: courseCode,
    assignment: title,
    title,
    attempt,
    day: { year: day.getFullYear(), month: day.getMonth() + 1, day: day.getDate() },
  });
}

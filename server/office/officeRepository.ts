import { createHash, randomBytes, randomUUID, scrypt, scryptSync, timingSafeEqual } from 'node:crypto';
import { promisify } from 'node:util';
import type { Assignment, OfficeAccount, Receipt } from '../../core/work/office/assignment';
import { unlessDiskFull, type Database } from '../database';

interface AccountRow {
  id: string;
  family: string;
  first: string;
  number: string;
  pin_salt: string;
  pin_hash: string;
  reader: number;
}
export interface SubmissionRow {
  id: string;
  assignment_id: string;
  account_id: string;
  state: 'queued' | 'accepted' | 'refused' | 'withdrawn';
  ready_at_ms: number;
  refusal: string | null;
  attempt: number;
  receipt_number: string;
  file_name: string;
  bytes: number;
  pages: number;
  sha256: string;
  fields: string;
  comment: string;
  late: number;
  at_ms: number;
}

/** One account at the college, a session of its own with each of its services: none of them can act at another. */
export type CollegeService = 'office' | 'locker' | 'post';

export type Rules = Omit<Assignment, 'id' | 'dueMs'>;
export interface SignedIn extends OfficeAccount {
  readonly reader: boolean;
}

const COLUMNS =
  'id, assignment_id, account_id, state, ready_at_ms, refusal, attempt, receipt_number, file_name, bytes, pages, sha256, fields, comment, late, at_ms';
const hashOf = (pin: string, salt: string): string => scryptSync(pin, salt, 32).toString('hex');
/** A session ends when it was not used for so long, and at the latest so long after signing in. */
export const SESSION_MS = { idle: 30 * 24 * 3600_000, most: 180 * 24 * 3600_000 };
/** How exactly it is known when a session was last used. */
const SEEN_EVERY_MS = 3600_000;
/** On another thread: it is slow on purpose. */
const scryptLater = promisify<string, string, number, Buffer>(scrypt);
const sha256 = (text: string): string => createHash('sha256').update(text).digest('hex');

export type OfficeRepository = ReturnType<typeof createOfficeRepository>;

export function createOfficeRepository(db: Database) {
  const accountByNumber = db.prepare<[string], AccountRow>('SELECT * FROM account WHERE number = ?');
  const accountBySession = db.prepare<[string, CollegeService, number, number], AccountRow & { seen_at_ms: number }>(
    'SELECT account.*, session.seen_at_ms FROM session JOIN account ON account.id = session.account_id WHERE token_sha256 = ? AND service = ? AND session.seen_at_ms > ? AND session.created_at_ms > ?',
  );
  const addAccount = db.prepare<[string, string, string, string, string, string, number]>(
    'INSERT INTO account (id, family, first, number, pin_salt, pin_hash, reader) VALUES (?, ?, ?, ?, ?, ?, ?) ON CONFLICT DO NOTHING',
  );
  const addSession = db.prepare<[string, string, CollegeService, number, number]>(
    'INSERT INTO session (token_sha256, account_id, service, created_at_ms, seen_at_ms) VALUES (?, ?, ?, ?, ?)',
  );
  const seeSession = db.prepare<[number, string]>('UPDATE session SET seen_at_ms = ? WHERE token_sha256 = ?');
  const dropEndedSessions = db.prepare<[number, number]>(
    'DELETE FROM session WHERE seen_at_ms <= ? OR created_at_ms <= ?',
  );
  const dropSessionsOf = db.prepare<[string]>('DELETE FROM session WHERE account_id = ?');
  const accounts = db.prepare<[], AccountRow>('SELECT * FROM account ORDER BY number');
  const setPin = db.prepare<[string, string, string]>('UPDATE account SET pin_salt = ?, pin_hash = ? WHERE id = ?');
  const dropAccount = db.prepare<[string]>(
    'DELETE FROM account WHERE id = ? AND NOT EXISTS (SELECT 1 FROM submission WHERE account_id = account.id)',
  );
  const closeAccount = db.prepare<[string, string, string]>('UPDATE account SET number = ?, pin_hash = ? WHERE id = ?');
  const dropSession = db.prepare<[string]>('DELETE FROM session WHERE token_sha256 = ?');
  const assignments = db.prepare<[], { id: string; due_ms: number; rules: string }>(
    'SELECT id, due_ms, rules FROM assignment ORDER BY position',
  );
  const saveAssignment = db.prepare<[string, number, number, string]>(
    'INSERT INTO assignment (id, position, due_ms, rules) VALUES (?, ?, ?, ?) ON CONFLICT (id) DO UPDATE SET due_ms = excluded.due_ms, rules = excluded.rules, position = excluded.position',
  );
  const byKey = db.prepare<[string, string], SubmissionRow>(
    `SELECT ${COLUMNS} FROM submission WHERE account_id = ? AND idempotency_key = ?`,
  );
  const one = db.prepare<[string], SubmissionRow>(`SELECT ${COLUMNS} FROM submission WHERE id = ?`);
  const own = db.prepare<[string], SubmissionRow>(
    `SELECT ${COLUMNS} FROM submission WHERE account_id = ? AND state IN ('accepted', 'withdrawn') ORDER BY at_ms DESC`,
  );
  const accepted = db.prepare<[string], SubmissionRow & { family: string; first: string; number: string }>(
    `SELECT ${COLUMNS.split(', ')
      .map((column) => `submission.${column}`)
      .join(
        ', ',
      )}, account.family, account.first, account.number FROM submission JOIN account ON account.id = submission.account_id
     WHERE assignment_id = ? AND state = 'accepted' ORDER BY account.family COLLATE NOCASE, account.first COLLATE NOCASE, at_ms DESC`,
  );
  const insert = db.prepare<
    [
      string,
      string,
      string,
      string,
      string,
      number,
      string | null,
      number,
      string,
      string,
      number,
      number,
      string,
      string,
      string,
      number,
      number,
      Uint8Array,
    ]
  >(
    `INSERT INTO submission (id, assignment_id, account_id, idempotency_key, state, ready_at_ms, refusal, attempt, receipt_number, file_name, bytes, pages, sha256, fields, comment, late, at_ms, file)
     VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
  );
  const settleQueued = db.prepare<[number]>(
    "UPDATE submission SET state = CASE WHEN refusal IS NULL THEN 'accepted' ELSE 'refused' END WHERE state = 'queued' AND ready_at_ms <= ?",
  );
  const taken = db.prepare<[string, string], { n: number }>(
    "SELECT count(*) AS n FROM submission WHERE account_id = ? AND assignment_id = ? AND (state = 'accepted' OR (state = 'queued' AND refusal IS NULL))",
  );
  const setState = db.prepare<[string, string]>('UPDATE submission SET state = ? WHERE id = ?');
  const file = db.prepare<[string], { file: Buffer }>('SELECT file FROM submission WHERE id = ?');
  const notes = db.prepare<[string], { page: number; text: string }>(
    'SELECT page, text FROM note WHERE submission_id = ? ORDER BY page, seq',
  );
  const addNote = db.prepare<[string, number, string, string]>(
    'INSERT INTO note (submission_id, seq, page, text) SELECT ?, COALESCE(MAX(seq), 0) + 1, ?, ? FROM note WHERE submission_id = ?',
  );
  const toAccount = ({ id, family, first, number, reader }: AccountRow): SignedIn => ({
    id,
    family,
    first,
    number,
    reader: reader === 1,
  });
  /** The office has looked at what was in its queue, whether anybody asks after it or not. */
  const settle = (nowMs: number): void => unlessDiskFull(() => settleQueued.run(nowMs));
  /** The session's token. */
  const openSession = (service: CollegeService, accountId: string, nowMs: number): string => {
    const token = randomBytes(32).toString('base64url');
    addSession.run(sha256(token), accountId, service, nowMs, nowMs);
    return token;
  };
  return {
    addAccount(id: string, who: Omit<OfficeAccount, 'id'>, pin: string, reader: boolean): void {
      const salt = randomBytes(12).toString('hex');
      addAccount.run(id, who.family, who.first, who.number, salt, hashOf(pin, salt), reader ? 1 : 0);
    },
    accounts: (): SignedIn[] => accounts.all().map(toAccount),
    /** A new PIN ends all sessions. @returns whether there is such an account */
    setPin(number: string, pin: string): boolean {
      const row = accountByNumber.get(number.trim().toUpperCase());
      if (row === undefined) return false;
      const salt = randomBytes(12).toString('hex');
      setPin.run(salt, hashOf(pin, salt), row.id);
      dropSessionsOf.run(row.id);
      return true;
    },
    /** Nobody can sign in with it any more. What was handed in stays the college's. @returns whether there is such an account */
    removeAccount(number: string): boolean {
      const row = accountByNumber.get(number.trim().toUpperCase());
      if (row === undefined) return false;
      dropSessionsOf.run(row.id);
      if (dropAccount.run(row.id).changes === 0)
        closeAccount.run(`closed ${row.id}`, randomBytes(32).toString('hex'), row.id);
      return true;
    },
    /** The token of a session with one service, for a right number and PIN, else null. */
    async signIn(service: CollegeService, number: string, pin: string, nowMs: number): Promise<string | null> {
      const row = accountByNumber.get(number.trim().toUpperCase());
      // an unknown number takes as long as a wrong PIN
      const given = await scryptLater(pin, row?.pin_salt ?? 'none', 32);
      if (row === undefined || !timingSafeEqual(given, Buffer.from(row.pin_hash, 'hex'))) return null;
      return openSession(service, row.id, nowMs);
    },
    openSession,
    signOut: (token: string): void => void dropSession.run(sha256(token)),
    /** Whose session it is; null where there is none or it has ended. */
    accountOf(service: CollegeService, token: string, nowMs: number): SignedIn | null {
      const row = accountBySession.get(sha256(token), service, nowMs - SESSION_MS.idle, nowMs - SESSION_MS.most);
      if (row === undefined) return null;
      if (nowMs - row.seen_at_ms > SEEN_EVERY_MS) unlessDiskFull(() => seeSession.run(nowMs, sha256(token)));
      return toAccount(row);
    },
    dropEndedSessions: (nowMs: number): void =>
      void dropEndedSessions.run(nowMs - SESSION_MS.idle, nowMs - SESSION_MS.most),
    assignments: (): Assignment[] =>
      assignments.all().map(({ id, due_ms, rules }) => ({ id, dueMs: due_ms, ...(JSON.parse(rules) as Rules) })),
    saveAssignment: (id: string, position: number, dueMs: number, rules: Rules): void =>
      void saveAssignment.run(id, position, dueMs, JSON.stringify(rules)),
    byKey: (accountId: string, key: string): SubmissionRow | null => byKey.get(accountId, key) ?? null,
    settle,
    find(id: string, nowMs: number): SubmissionRow | null {
      settle(nowMs);
      return one.get(id) ?? null;
    },
    ofAccount(accountId: string, nowMs: number): SubmissionRow[] {
      settle(nowMs);
      return own.all(accountId);
    },
    /** How many files of an account count as attempts, those still being looked at too. */
    taken: (accountId: string, assignmentId: string): number => taken.get(accountId, assignmentId)!.n,
    accepted(assignmentId: string, nowMs: number) {
      settle(nowMs);
      return accepted.all(assignmentId);
    },
    add(row: Omit<SubmissionRow, 'id'>, key: string, bytes: Uint8Array): string {
      const id = randomUUID();
      insert.run(
        id,
        row.assignment_id,
        row.account_id,
        key,
        row.state,
        row.ready_at_ms,
        row.refusal,
        row.attempt,
        row.receipt_number,
        row.file_name,
        row.bytes,
        row.pages,
        row.sha256,
        row.fields,
        row.comment,
        row.late,
        row.at_ms,
        bytes,
      );
      return id;
    },
    withdraw: (id: string): void => void setState.run('withdrawn', id),
    file: (id: string): Buffer | null => file.get(id)?.file ?? null,
    addNote: (id: string, page: number, text: string): void => void addNote.run(id, page, text, id),
    receipt: (row: SubmissionRow): Receipt => ({
      submissionId: row.id,
      assignmentId: row.assignment_id,
      number: row.receipt_number,
      attempt: row.attempt,
      fileName: row.file_name,
      bytes: row.bytes,
      pages: row.pages,
      sha256: row.sha256,
      atMs: row.at_ms,
      late: row.late === 1,
      comment: row.comment,
      withdrawn: row.state === 'withdrawn',
      notes: notes.all(row.id),
    }),
    transaction: <T>(work: () => T): T => db.transaction(work)(),
  };
}

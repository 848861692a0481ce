import type { Database } from '../database';

export type ChangeKind = 'handIn' | 'boundFile' | 'profile';

export interface LoggedChange {
  readonly kind: ChangeKind;
  /** The hand-in it is about; '' for the profile. */
  readonly subject: string;
  readonly seq: number;
}

export type ChangeRepository = ReturnType<typeof createChangeRepository>;

/** What has changed for each owner, numbered: of each thing only its latest change, so that the log is as long as there are things. */
export function createChangeRepository(db: Database) {
  const next = db.prepare<[string], { last_seq: number }>(
    'UPDATE owner SET last_seq = last_seq + 1 WHERE id = ? RETURNING last_seq',
  );
  const put = db.prepare<[string, string, string, number]>(
    'INSERT INTO change (owner_id, kind, subject, seq) VALUES (?, ?, ?, ?) ON CONFLICT DO UPDATE SET seq = excluded.seq',
  );
  const last = db.prepare<[string], { last_seq: number }>('SELECT last_seq FROM owner WHERE id = ?');
  const since = db.prepare<[string, number, number], LoggedChange>(
    'SELECT kind, subject, seq FROM change WHERE owner_id = ? AND seq > ? ORDER BY seq LIMIT ?',
  );
  return {
    /** Notes a change under the owner's next number. Call inside the transaction that makes it. */
    note(ownerId: string, kind: ChangeKind, subject: string): number {
      const seq = next.get(ownerId)!.last_seq;
      put.run(ownerId, kind, subject, seq);
      return seq;
    },
    /** The number of the latest change; 0 before the first. */
    last: (ownerId: string): number => last.get(ownerId)?.last_seq ?? 0,
    since: (ownerId: string, seq: number, limit: number): LoggedChange[] => since.all(ownerId, seq, limit),
  };
}

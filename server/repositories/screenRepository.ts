import type { ScreenView } from '../../contract/views';
import type { Database } from '../database';

export interface KnownScreen {
  readonly id: string;
  readonly ownerId: string;
  readonly cutOff: boolean;
  readonly seenAtMs: number;
}

export type ScreenRepository = ReturnType<typeof createScreenRepository>;

/** The browsers that act for an owner, each with a key of its own; only the key's hash is kept. */
export function createScreenRepository(db: Database) {
  const byToken = db.prepare<[string], { id: string; owner_id: string; cut_off: number; seen_at_ms: number }>('SELECT id, owner_id, cut_off, seen_at_ms FROM screen WHERE token_sha256 = ?');
  const ownerOf = db.prepare<[string], { owner_id: string }>('SELECT owner_id FROM screen WHERE id = ?');
  const insert = db.prepare<[string, string, string, string, number, number]>('INSERT INTO screen (id, owner_id, token_sha256, kind, created_at_ms, seen_at_ms) VALUES (?, ?, ?, ?, ?, ?)');
  const see = db.prepare<[number, string]>('UPDATE screen SET seen_at_ms = ? WHERE id = ?');
  const list = db.prepare<[string], { id: string; kind: string; created_at_ms: number; seen_at_ms: number }>('SELECT id, kind, created_at_ms, seen_at_ms FROM screen WHERE owner_id = ? AND cut_off = 0 ORDER BY created_at_ms');
  const cut = db.prepare<[string, string]>('UPDATE screen SET cut_off = 1 WHERE owner_id = ? AND id = ? AND cut_off = 0');
  const addCode = db.prepare<[string, string, number]>('INSERT INTO link_code (code_sha256, owner_id, expires_at_ms) VALUES (?, ?, ?)');
  const dropCodes = db.prepare<[string, number]>('DELETE FROM link_code WHERE owner_id = ? OR expires_at_ms < ?');
  const takeCode = db.prepare<[string, number], { owner_id: string }>('DELETE FROM link_code WHERE code_sha256 = ? AND expires_at_ms >= ? RETURNING owner_id');
  /**
   * Everything one owner has comes to another, in this order for the references' sake. What comes is new to the other's screens,
   * so its changes are numbered on from theirs.
   */
  const move = [
    'DELETE FROM hand_in WHERE owner_id = @from AND sample = 1',
    "INSERT INTO change (owner_id, kind, subject, seq) SELECT @to, 'handIn', id, (SELECT last_seq FROM owner WHERE id = @to) + row_number() OVER (ORDER BY id) FROM hand_in WHERE owner_id = @from ON CONFLICT DO UPDATE SET seq = excluded.seq",
    'UPDATE owner SET last_seq = max(last_seq, (SELECT coalesce(max(seq), 0) FROM change WHERE owner_id = @to)) WHERE id = @to',
    'INSERT INTO gone_hand_in (owner_id, id) SELECT @to, id FROM gone_hand_in WHERE owner_id = @from ON CONFLICT DO NOTHING',
    'INSERT INTO picture (owner_id, original_sha256, pdf_page, size, sha256) SELECT @to, original_sha256, pdf_page, size, sha256 FROM picture WHERE owner_id = @from ON CONFLICT DO NOTHING',
    'INSERT INTO original (owner_id, sha256, type, width, height) SELECT @to, sha256, type, width, height FROM original WHERE owner_id = @from ON CONFLICT DO NOTHING',
    'UPDATE page SET owner_id = @to WHERE owner_id = @from',
    'UPDATE hand_in SET owner_id = @to WHERE owner_id = @from',
    'UPDATE bound_file SET owner_id = @to WHERE owner_id = @from',
    'UPDATE OR IGNORE applied_operation SET owner_id = @to WHERE owner_id = @from',
    'UPDATE OR IGNORE profile SET owner_id = @to WHERE owner_id = @from',
    'UPDATE screen SET owner_id = @to WHERE owner_id = @from',
    'DELETE FROM owner WHERE id = @from',
  ].map((sql) => db.prepare<{ from: string; to: string }>(sql));
  const moveAll = (from: string, to: string): void => {
    if (from !== to) for (const step of move) step.run({ from, to });
  };
  return {
    find(tokenSha256: string): KnownScreen | null {
      const row = byToken.get(tokenSha256);
      return row === undefined ? null : { id: row.id, ownerId: row.owner_id, cutOff: row.cut_off === 1, seenAtMs: row.seen_at_ms };
    },
    ownerOf: (id: string): string | null => ownerOf.get(id)?.owner_id ?? null,
    add: (id: string, ownerId: string, tokenSha256: string, kind: string, nowMs: number): void => void insert.run(id, ownerId, tokenSha256, kind, nowMs, nowMs),
    see: (id: string, nowMs: number): void => void see.run(nowMs, id),
    list: (ownerId: string, thisId: string): ScreenView[] => list.all(ownerId).map(({ id, kind, created_at_ms, seen_at_ms }) => ({ id, kind, linkedAtMs: created_at_ms, seenAtMs: seen_at_ms, thisOne: id === thisId })),
    /** @returns whether there was such a screen */
    cutOff: (ownerId: string, id: string): boolean => cut.run(ownerId, id).changes === 1,
    /** A newer code makes the older ones void. */
    addCode: db.transaction((ownerId: string, codeSha256: string, nowMs: number, expiresAtMs: number) => {
      dropCodes.run(ownerId, nowMs);
      addCode.run(codeSha256, ownerId, expiresAtMs);
    }),
    /** Uses a code up, and brings everything its user has to the owner it was made for. Null where the code is not good. */
    join: db.transaction((ownerId: string, codeSha256: string, nowMs: number): string | null => {
      const to = takeCode.get(codeSha256, nowMs)?.owner_id;
      if (to === undefined) return null;
      moveAll(ownerId, to);
      return to;
    }),
    /** Brings everything one owner has, and the screens that act for them, to another. */
    moveAll: db.transaction(moveAll),
  };
}

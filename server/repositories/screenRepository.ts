import type { JoinView, ScreenView } from '../../contract/views';
import type { Database } from '../database';

export interface KnownScreen {
  readonly id: string;
  readonly ownerId: string;
  readonly cutOff: boolean;
  readonly seenAtMs: number;
}

/** Numbers the changes of hand-ins that are in `from` on from the last of `to`. @param which - which of them, as SQL */
const noteHandIns = (from: string, to: string, which: string): readonly string[] => [
  `INSERT INTO change (owner_id, kind, subject, seq) SELECT ${to}, 'handIn', id, (SELECT last_seq FROM owner WHERE id = ${to}) + row_number() OVER (ORDER BY id) FROM hand_in WHERE owner_id = ${from} ${which} ON CONFLICT DO UPDATE SET seq = excluded.seq`,
  `UPDATE owner SET last_seq = max(last_seq, (SELECT coalesce(max(seq), 0) FROM change WHERE owner_id = ${to})) WHERE id = ${to}`,
];
/** Lets `to` have photos of `from` and their small pictures. @param which - which of them, as SQL over ORIGINAL */
const copyPhotos = (from: string, to: string, which: string): readonly string[] => [
  `INSERT INTO picture (owner_id, original_sha256, pdf_page, size, sha256) SELECT ${to}, original_sha256, pdf_page, size, sha256 FROM picture WHERE owner_id = ${from} ${which.replace('ORIGINAL', 'picture.original_sha256')} ON CONFLICT DO NOTHING`,
  `INSERT INTO original (owner_id, sha256, type, width, height) SELECT ${to}, sha256, type, width, height FROM original WHERE owner_id = ${from} ${which.replace('ORIGINAL', 'original.sha256')} ON CONFLICT DO UPDATE SET let_go_at_ms = NULL`,
];

/** A person's name as their profile has it, as SQL. */
const personOf = (owner: string): string =>
  `coalesce((SELECT trim(json_extract(profile, '$.first') || ' ' || json_extract(profile, '$.family')) FROM profile WHERE profile.owner_id = ${owner}), '')`;

export type ScreenRepository = ReturnType<typeof createScreenRepository>;

/** The browsers that act for an owner, each with a key of its own; only the key's hash is kept. */
export function createScreenRepository(db: Database) {
  const byToken = db.prepare<[string], { id: string; owner_id: string; cut_off: number; seen_at_ms: number }>(
    'SELECT id, owner_id, cut_off, seen_at_ms FROM screen WHERE token_sha256 = ?',
  );
  const ownerOf = db.prepare<[string], { owner_id: string }>('SELECT owner_id FROM screen WHERE id = ?');
  const insert = db.prepare<[string, string, string, string, number, number]>(
    'INSERT INTO screen (id, owner_id, token_sha256, kind, created_at_ms, seen_at_ms) VALUES (?, ?, ?, ?, ?, ?)',
  );
  const see = db.prepare<[number, string]>('UPDATE screen SET seen_at_ms = ? WHERE id = ?');
  const list = db.prepare<
    [string],
    { id: string; kind: string; created_at_ms: number; seen_at_ms: number; person: string; came_from: string | null }
  >(
    `SELECT screen.id, kind, screen.created_at_ms, seen_at_ms, came_from, iif(person <> '', person, ${personOf('screen.owner_id')}) AS person FROM screen WHERE owner_id = ? AND cut_off = 0 ORDER BY screen.created_at_ms`,
  );
  const cut = db.prepare<[string, string]>(
    'UPDATE screen SET cut_off = 1 WHERE owner_id = ? AND id = ? AND cut_off = 0',
  );
  const one = db.prepare<[string, string], { came_from: string | null }>(
    'SELECT came_from FROM screen WHERE owner_id = ? AND id = ? AND cut_off = 0',
  );
  const together = db.prepare<[string, string], { id: string }>(
    'SELECT id FROM screen WHERE owner_id = ? AND came_from = ?',
  );
  const leftOwner = db.prepare<[string], { left_owner: string | null }>('SELECT left_owner FROM screen WHERE id = ?');
  const lookAt = db.prepare<[string, number], { kind: string | null; person: string; hand_ins: number }>(
    `SELECT screen.kind, ${personOf('link_code.owner_id')} AS person, (SELECT count(*) FROM hand_in WHERE hand_in.owner_id = link_code.owner_id AND removed_at_ms IS NULL) AS hand_ins
     FROM link_code LEFT JOIN screen ON screen.id = link_code.screen_id WHERE code_sha256 = ? AND expires_at_ms >= ?`,
  );
  const addCode = db.prepare<[string, string, string, number]>(
    'INSERT INTO link_code (code_sha256, owner_id, screen_id, expires_at_ms) VALUES (?, ?, ?, ?)',
  );
  const dropCodes = db.prepare<[string, number]>('DELETE FROM link_code WHERE owner_id = ? OR expires_at_ms < ?');
  const takeCode = db.prepare<[string, number], { owner_id: string }>(
    'DELETE FROM link_code WHERE code_sha256 = ? AND expires_at_ms >= ? RETURNING owner_id',
  );
  /**
   * Everything one owner has comes to another, in this order for the references' sake. What comes is new to the other's screens,
   * so its changes are numbered on from theirs. The owner itself stays, with nothing but a profile, for what came along to leave to.
   */
  const move = [
    'DELETE FROM hand_in WHERE owner_id = @from AND sample = 1',
    'DELETE FROM gone_hand_in WHERE owner_id = @to AND id IN (SELECT id FROM hand_in WHERE owner_id = @from)',
    ...noteHandIns('@from', '@to', ''),
    'INSERT INTO gone_hand_in (owner_id, id) SELECT @to, id FROM gone_hand_in WHERE owner_id = @from ON CONFLICT DO NOTHING',
    ...copyPhotos('@from', '@to', ''),
    'UPDATE page SET owner_id = @to WHERE owner_id = @from',
    'UPDATE bound_file SET owner_id = @to WHERE owner_id = @from',
    'UPDATE hand_in SET owner_id = @to, came_from = coalesce(came_from, @from) WHERE owner_id = @from',
    'UPDATE OR IGNORE applied_operation SET owner_id = @to WHERE owner_id = @from',
    'INSERT INTO profile (owner_id, profile) SELECT @to, profile FROM profile WHERE owner_id = @from ON CONFLICT DO NOTHING',
    `UPDATE screen SET owner_id = @to, left_owner = NULL, came_from = coalesce(came_from, @from), person = iif(person = '', ${personOf('@from')}, person) WHERE owner_id = @from`,
    ...['change', 'gone_hand_in', 'applied_operation', 'original', 'picture', 'link_code', 'recovery_code'].map(
      (table) => `DELETE FROM ${table} WHERE owner_id = @from`,
    ),
  ].map((sql) => db.prepare<{ from: string; to: string }>(sql));
  /** What once came from an owner leaves to them again, with their screens; in the same order. */
  const leave = [
    "INSERT INTO owner (id, token_sha256, created_at_ms) VALUES (@to, 'owner ' || @to, @nowMs) ON CONFLICT DO NOTHING",
    ...noteHandIns('@from', '@to', 'AND came_from = @to'),
    ...copyPhotos(
      '@from',
      '@to',
      'AND EXISTS (SELECT 1 FROM page JOIN hand_in ON hand_in.id = page.hand_in_id WHERE page.owner_id = @from AND came_from = @to AND page.original_sha256 = ORIGINAL)',
    ),
    // for the other's screens they are gone
    ...noteHandIns('@from', '@from', 'AND came_from = @to'),
    'INSERT INTO gone_hand_in (owner_id, id) SELECT @from, id FROM hand_in WHERE owner_id = @from AND came_from = @to ON CONFLICT DO NOTHING',
    'UPDATE page SET owner_id = @to WHERE owner_id = @from AND hand_in_id IN (SELECT id FROM hand_in WHERE came_from = @to)',
    'UPDATE bound_file SET owner_id = @to WHERE owner_id = @from AND hand_in_id IN (SELECT id FROM hand_in WHERE came_from = @to)',
    'UPDATE hand_in SET owner_id = @to, came_from = NULL WHERE owner_id = @from AND came_from = @to',
    "UPDATE screen SET owner_id = @to, left_owner = @from, came_from = NULL, person = '' WHERE owner_id = @from AND came_from = @to",
    // their photos are theirs alone again
    'DELETE FROM picture WHERE owner_id = @from AND original_sha256 IN (SELECT original_sha256 FROM page WHERE owner_id = @to) AND original_sha256 NOT IN (SELECT original_sha256 FROM page WHERE owner_id = @from)',
    'DELETE FROM original WHERE owner_id = @from AND sha256 IN (SELECT original_sha256 FROM page WHERE owner_id = @to) AND sha256 NOT IN (SELECT original_sha256 FROM page WHERE owner_id = @from)',
  ].map((sql) => db.prepare<{ from: string; to: string; nowMs: number }>(sql));
  const moveAll = (from: string, to: string): void => {
    if (from !== to) for (const step of move) step.run({ from, to });
  };
  return {
    find(tokenSha256: string): KnownScreen | null {
      const row = byToken.get(tokenSha256);
      return row === undefined
        ? null
        : { id: row.id, ownerId: row.owner_id, cutOff: row.cut_off === 1, seenAtMs: row.seen_at_ms };
    },
    ownerOf: (id: string): string | null => ownerOf.get(id)?.owner_id ?? null,
    add: (id: string, ownerId: string, tokenSha256: string, kind: string, nowMs: number): void =>
      void insert.run(id, ownerId, tokenSha256, kind, nowMs, nowMs),
    see: (id: string, nowMs: number): void => void see.run(nowMs, id),
    list: (ownerId: string, thisId: string): ScreenView[] =>
      list.all(ownerId).map(({ id, kind, created_at_ms, seen_at_ms, person, came_from }) => ({
        id,
        kind,
        person,
        linkedAtMs: created_at_ms,
        seenAtMs: seen_at_ms,
        thisOne: id === thisId,
        cameAlong: came_from !== null,
      })),
    /**
     * Ends a link. A screen that had joined leaves with what came along, and the others that came with it; one that was here first is cut off.
     * @returns what became of it: the ids of those that left; null where there is no such screen
     */
    unlink: db.transaction(
      (ownerId: string, id: string, nowMs: number): { readonly left: readonly string[] } | null => {
        const screen = one.get(ownerId, id);
        if (screen === undefined) return null;
        if (screen.came_from === null) {
          cut.run(ownerId, id);
          return { left: [] };
        }
        const left = together.all(ownerId, screen.came_from).map((each) => each.id);
        for (const step of leave) step.run({ from: ownerId, to: screen.came_from, nowMs });
        return { left };
      },
    ),
    /** The owner whose work a screen showed before it left. */
    leftOwner: (id: string): string | null => leftOwner.get(id)?.left_owner ?? null,
    /** Whose work a code joins; null where it is not good. */
    look(codeSha256: string, nowMs: number): JoinView | null {
      const row = lookAt.get(codeSha256, nowMs);
      return row === undefined ? null : { kind: row.kind ?? 'Computer', person: row.person, handIns: row.hand_ins };
    },
    /** A newer code makes the older ones void. */
    addCode: db.transaction(
      (ownerId: string, screenId: string, codeSha256: string, nowMs: number, expiresAtMs: number) => {
        dropCodes.run(ownerId, nowMs);
        addCode.run(codeSha256, ownerId, screenId, expiresAtMs);
      },
    ),
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

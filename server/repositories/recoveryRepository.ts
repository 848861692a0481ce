import type { Database } from '../database';

export type RecoveryRepository = ReturnType<typeof createRecoveryRepository>;

/** One code an owner, by which a new device comes back to their work; only its hash is kept. */
export function createRecoveryRepository(db: Database) {
  const put = db.prepare<[string, string, number]>(
    'INSERT INTO recovery_code (owner_id, code_sha256, made_at_ms) VALUES (?, ?, ?) ON CONFLICT (owner_id) DO UPDATE SET code_sha256 = excluded.code_sha256, made_at_ms = excluded.made_at_ms',
  );
  const made = db.prepare<[string], { made_at_ms: number }>('SELECT made_at_ms FROM recovery_code WHERE owner_id = ?');
  const owner = db.prepare<[string], { owner_id: string }>('SELECT owner_id FROM recovery_code WHERE code_sha256 = ?');
  return {
    /** A newer code makes the older one void. */
    replace: (ownerId: string, codeSha256: string, nowMs: number): void => void put.run(ownerId, codeSha256, nowMs),
    madeAtMs: (ownerId: string): number | null => made.get(ownerId)?.made_at_ms ?? null,
    ownerOf: (codeSha256: string): string | null => owner.get(codeSha256)?.owner_id ?? null,
  };
}

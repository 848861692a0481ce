import type { Database } from '../database';

export type OwnerRepository = ReturnType<typeof createOwnerRepository>;

export function createOwnerRepository(db: Database) {
  const insert = db.prepare<[string, string, number]>('INSERT INTO owner (id, token_sha256, created_at_ms) VALUES (?, ?, ?)');
  const byToken = db.prepare<[string], { id: string }>('SELECT id FROM owner WHERE token_sha256 = ?');
  return {
    add: (id: string, tokenSha256: string, nowMs: number): void => void insert.run(id, tokenSha256, nowMs),
    idByToken: (tokenSha256: string): string | null => byToken.get(tokenSha256)?.id ?? null,
  };
}

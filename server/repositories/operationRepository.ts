import type { Database } from '../database';

export type OperationRepository = ReturnType<typeof createOperationRepository>;

/** Remembers which operations were applied, so that one sent twice counts once. */
export function createOperationRepository(db: Database) {
  const insert = db.prepare<[string, string]>(
    'INSERT INTO applied_operation (owner_id, id) VALUES (?, ?) ON CONFLICT DO NOTHING',
  );
  return {
    /** True the first time. Call inside the transaction that applies it. */
    claim: (ownerId: string, id: string): boolean => insert.run(ownerId, id).changes === 1,
  };
}

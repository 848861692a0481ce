import { randomUUID } from 'node:crypto';
import type { Database } from '../database';
import type { HandInRepository } from '../repositories/handInRepository';
import type { OriginalRepository } from '../repositories/originalRepository';

/** The owner whose hand-ins every newcomer to the demo gets a copy of. */
export const DEMO_OWNER_ID = 'demo-mira';

/** Gives a new owner a copy of the demo's hand-ins, where the database was seeded; elsewhere it gives nothing. */
export function createDemoWelcome(db: Database, handIns: HandInRepository, originals: OriginalRepository): (ownerId: string) => void {
  return db.transaction((ownerId: string) => {
    originals.share(DEMO_OWNER_ID, ownerId);
    for (const handIn of handIns.list(DEMO_OWNER_ID)) {
      handIns.save(ownerId, { ...handIn, id: randomUUID(), pages: handIn.pages.map((page) => ({ ...page, id: randomUUID() })) }, null);
    }
  });
}

import { randomUUID } from 'node:crypto';
import type { Database } from '../database';
import type { BoundFileRepository } from '../repositories/boundFileRepository';
import type { HandInRepository } from '../repositories/handInRepository';
import type { OriginalRepository } from '../repositories/originalRepository';
import type { OwnerRepository } from '../repositories/ownerRepository';

/** The owner whose hand-ins every newcomer to the demo gets a copy of. */
export const DEMO_OWNER_ID = 'demo-mira';

interface Repositories {
  readonly handIns: HandInRepository;
  readonly originals: OriginalRepository;
  readonly boundFiles: BoundFileRepository;
  readonly owners: OwnerRepository;
}

/** Gives a new owner a copy of the demo's hand-ins, where the database was seeded; elsewhere it gives nothing. */
export function createDemoWelcome(db: Database, { handIns, originals, boundFiles, owners }: Repositories): (ownerId: string) => boolean {
  return db.transaction((ownerId: string) => {
    originals.share(DEMO_OWNER_ID, ownerId);
    const seeded = handIns.list(DEMO_OWNER_ID);
    for (const handIn of seeded) {
      const id = randomUUID();
      handIns.save(ownerId, { ...handIn, id, pages: handIn.pages.map((page) => ({ ...page, id: randomUUID() })) }, null);
      handIns.markSample(ownerId, id);
      for (const file of boundFiles.list(DEMO_OWNER_ID, handIn.id)) boundFiles.add(ownerId, id, { ...file, id: randomUUID() });
    }
    const profile = owners.profile(DEMO_OWNER_ID);
    if (profile !== null) owners.setProfile(ownerId, profile);
    return seeded.length > 0;
  });
}

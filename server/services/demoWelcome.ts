import { randomUUID } from 'node:crypto';
import type { Database } from '../database';
import type { BoundFileRepository } from '../repositories/boundFileRepository';
import type { ChangeRepository } from '../repositories/changeRepository';
import type { HandInRepository } from '../repositories/handInRepository';
import type { OriginalRepository } from '../repositories/originalRepository';
import type { OwnerRepository } from '../repositories/ownerRepository';
import type { PictureRepository } from '../repositories/pictureRepository';

/** The owner whose hand-ins every newcomer to the demo gets a copy of. */
export const DEMO_OWNER_ID = 'demo-mira';

interface Repositories {
  readonly handIns: HandInRepository;
  readonly originals: OriginalRepository;
  readonly pictures: PictureRepository;
  readonly boundFiles: BoundFileRepository;
  readonly owners: OwnerRepository;
  readonly changes: ChangeRepository;
  readonly now: () => number;
}

/** Gives a new owner a copy of the demo's hand-ins, where the database was seeded; elsewhere it gives nothing. */
export function createDemoWelcome(
  db: Database,
  { handIns, originals, pictures, boundFiles, owners, changes, now }: Repositories,
): (ownerId: string) => boolean {
  return db.transaction((ownerId: string) => {
    originals.share(DEMO_OWNER_ID, ownerId);
    pictures.share(DEMO_OWNER_ID, ownerId);
    const seeded = handIns.list(DEMO_OWNER_ID);
    for (const handIn of seeded) {
      const id = randomUUID();
      handIns.save(
        ownerId,
        { ...handIn, id, pages: handIn.pages.map((page) => ({ ...page, id: randomUUID() })) },
        null,
        now(),
      );
      handIns.markSample(ownerId, id);
      changes.note(ownerId, 'handIn', id);
      const files = boundFiles.list(DEMO_OWNER_ID, handIn.id);
      for (const file of files) boundFiles.add(ownerId, id, { ...file, id: randomUUID() });
      if (files.length > 0) changes.note(ownerId, 'boundFile', id);
    }
    const profile = owners.profile(DEMO_OWNER_ID);
    if (profile !== null) {
      owners.setProfile(ownerId, profile);
      changes.note(ownerId, 'profile', '');
    }
    return seeded.length > 0;
  });
}

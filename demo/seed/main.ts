import 'reflect-metadata';
import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import type { Operation } from '../../core/handIn/operation';
import { checkPhotoFile } from '../../core/photo/checkPhotoFile';
import { startRecipes } from '../../core/recipe/startRecipe';
import { decodePhoto } from '../../platform/node/decodePhoto';
import { setting } from '../../platform/node/setting';
import { openDatabase } from '../../server/database';
import { createBlobRepository } from '../../server/repositories/blobRepository';
import { createHandInRepository } from '../../server/repositories/handInRepository';
import { createOperationRepository } from '../../server/repositories/operationRepository';
import { createOriginalRepository } from '../../server/repositories/originalRepository';
import { createOwnerRepository } from '../../server/repositories/ownerRepository';
import { createApplyOperations } from '../../server/services/applyOperations';
import { DEMO_OWNER_ID } from '../../server/services/demoWelcome';

/** Fills a fresh database with Mira's hand-ins; does nothing where they are there. */
const HAND_INS = [
  { id: 'demo-ropework', title: 'Plate 2: bowline and sheet bend', photos: 'ropework-' },
  { id: 'demo-botany', title: 'Shore log: quadrat survey', photos: 'botany-' },
  { id: 'demo-tides', title: 'Set 4: heights at a secondary port', photos: 'tides-' },
] as const;

const dataFolder = setting('DATA_DIR') ?? 'data';
const photoFolder = path.join(dataFolder, 'practice-photos');
const db = openDatabase(path.join(dataFolder, 'fotoplan.sqlite'));
const blobs = createBlobRepository(db);
const owners = createOwnerRepository(db);
const handIns = createHandInRepository(db);
const originals = createOriginalRepository(db, blobs);
const apply = createApplyOperations(db, { handIns, operations: createOperationRepository(db), originals });

if (handIns.list(DEMO_OWNER_ID).length === 0) {
  const names = readdirSync(photoFolder).filter((f) => f.endsWith('.jpg')).sort();
  const photos = await Promise.all(
    names.map(async (name) => {
      const bytes = readFileSync(path.join(photoFolder, name));
      const image = await decodePhoto(bytes, name);
      return { name, bytes, facts: checkPhotoFile(bytes, name), sha256: createHash('sha256').update(bytes).digest('hex'), width: image.width, height: image.height, recipe: startRecipes(image, 'daylight', 'sheet')[0] };
    }),
  );
  const nowMs = Date.now();
  db.transaction(() => {
    // nobody can hold this owner's token: what is stored is not a hash of anything
    owners.add(DEMO_OWNER_ID, 'no-token', nowMs);
    for (const photo of photos) originals.add(DEMO_OWNER_ID, photo.sha256, photo.bytes, photo.facts);
    HAND_INS.forEach(({ id, title, photos: prefix }, h) => {
      const atMs = nowMs - (HAND_INS.length - h) * 3_600_000;
      const operations: Operation[] = [{ id: `${id}-new`, kind: 'createHandIn', handInId: id, atMs, title, paper: 'auto' }];
      for (const { name, sha256, width, height, recipe } of photos.filter((p) => p.name.startsWith(prefix))) {
        operations.push({ id: `${id}-${name}`, kind: 'addPage', handInId: id, atMs, pageId: `${id}-${name.replace('.jpg', '')}`.slice(0, 40), originalId: sha256, fileName: name, width, height, recipe });
      }
      apply(DEMO_OWNER_ID, operations);
    });
  })();
}
db.close();

import 'reflect-metadata';
import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import sharp from 'sharp';
import type { EncodeJpeg } from '../../core/compress/codePage';
import { renderCoded } from '../../core/compress/renderCoded';
import { bindPdf } from '../../core/pdf/bindPdf';
import type { Operation } from '../../core/handIn/operation';
import { checkPhotoFile } from '../../core/photo/checkPhotoFile';
import { startRecipes } from '../../core/recipe/startRecipe';
import { decodePhoto } from '../../platform/node/decodePhoto';
import { setting } from '../../platform/node/setting';
import { openDatabase } from '../../server/database';
import { createOfficeRepository } from '../../server/office/officeRepository';
import { OFFICE_MIGRATIONS } from '../../server/office/officeTables';
import { seedOffice } from '../../server/office/seedOffice';
import { createBlobRepository } from '../../server/repositories/blobRepository';
import { createHandInRepository } from '../../server/repositories/handInRepository';
import { createOperationRepository } from '../../server/repositories/operationRepository';
import { createOriginalRepository } from '../../server/repositories/originalRepository';
import { createOwnerRepository } from '../../server/repositories/ownerRepository';
import { createApplyOperations } from '../../server/services/applyOperations';
import { DEMO_OWNER_ID } from '../../server/services/demoWelcome';

/** Fills a fresh database with Mira's hand-ins; does nothing where they are there. */
const HAND_INS = [
  { id: 'demo-returned', title: 'Set 3: rule of twelfths', photos: 'tides-1', assignmentId: 'tides-set-3' },
  { id: 'demo-ropework', title: 'Plate 2: bowline and sheet bend', photos: 'ropework-', assignmentId: 'ropework-plate-2' },
  { id: 'demo-botany', title: 'Shore log: quadrat survey', photos: 'botany-', assignmentId: 'botany-shore-log' },
  { id: 'demo-tides', title: 'Set 4: heights at a secondary port', photos: 'tides-', assignmentId: null },
] as const;

const dataFolder = setting('DATA_DIR') ?? 'data';
const photoFolder = path.join(dataFolder, 'practice-photos');
const db = openDatabase(path.join(dataFolder, 'fotoplan.sqlite'));
const officeDb = openDatabase(path.join(dataFolder, 'office.sqlite'), OFFICE_MIGRATIONS);
const office = createOfficeRepository(officeDb);
seedOffice(office, Date.now());
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
    HAND_INS.forEach(({ id, title, photos: prefix, assignmentId }, h) => {
      const atMs = nowMs - (HAND_INS.length - h) * 3_600_000;
      const operations: Operation[] = [{ id: `${id}-new`, kind: 'createHandIn', handInId: id, atMs, title, paper: 'auto' }];
      for (const { name, sha256, width, height, recipe } of photos.filter((p) => p.name.startsWith(prefix))) {
        operations.push({ id: `${id}-${name}`, kind: 'addPage', handInId: id, atMs, pageId: `${id}-${name.replace('.jpg', '')}`.slice(0, 40), originalId: sha256, fileName: name, width, height, recipe });
      }
      if (assignmentId !== null) operations.push({ id: `${id}-for`, kind: 'changeHandIn', handInId: id, atMs, assignmentId });
      apply(DEMO_OWNER_ID, operations);
    });
  })();
}
if (office.ofAccount('mira').length === 0) await returnSet3();
db.close();
officeDb.close();

/** What Mira handed in last week, as the office keeps it, with the reader's notes. */
async function returnSet3(): Promise<void> {
  const atMs = Date.now() - 2 * 24 * 3_600_000;
  const image = await decodePhoto(readFileSync(path.join(photoFolder, readdirSync(photoFolder).find((f) => f.startsWith('tides-1') && f.endsWith('.jpg'))!)), 'tides.jpg');
  const encodeJpeg: EncodeJpeg = async ({ width, height, channels, data }, quality) => new Uint8Array(await sharp(data, { raw: { width, height, channels } }).jpeg({ quality: Math.round(100 * quality), mozjpeg: true }).toBuffer());
  const content = await renderCoded(image, startRecipes(image, 'daylight', 'sheet')[0], 0, 'a4', encodeJpeg);
  const file = await bindPdf([{ content }], { title: 'Set 3: rule of twelfths', paper: 'a4' });
  const sha256 = createHash('sha256').update(file).digest('hex');
  const submission = { assignment_id: 'tides-set-3', account_id: 'mira', state: 'accepted', ready_at_ms: atMs, refusal: null, attempt: 1, receipt_number: 'SP-5E7A33C1', file_name: 'Tolvanen-Adeyemi_Set3.pdf', bytes: file.length, pages: 1, sha256, fields: '{}', comment: 'Question 4 continues overleaf.', late: 0, at_ms: atMs } as const;
  const id = office.add(submission, 'seeded-set-3', file);
  office.addNote(id, 1, 'Good working. Mind the sign of the difference in 3.');
  office.addNote(id, 0, '17 of 20.');
}

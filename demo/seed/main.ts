import { jpegCodec } from '../../platform/node/jpegCodec';
import 'reflect-metadata';
import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import sharp from 'sharp';
import { bytesOf, FINEST } from '../../core/imaging/layers/codedPage';
import { renderCoded } from '../../core/work/render/renderCoded';
import { PLAIN_BINDING } from '../../core/work/hand-in/bindSettings';
import type { HandIn } from '../../core/work/hand-in/handIn';
import { madeFromKey } from '../../core/work/hand-in/madeFrom';
import type { Operation } from '../../core/work/hand-in/operation';
import { bindPdf } from '../../core/work/pdf/bindPdf';
import { checkPhotoFile } from '../../core/work/photo/checkPhotoFile';
import type { PixelImage } from '../../core/imaging/raster/pixelImage';
import { inspectStart } from '../../core/work/intake/inspectStart';
import { readFocalRatio } from '../../platform/readFocalRatio';
import { startRecipes } from '../../core/work/intake/startRecipe';
import { decodePhoto } from '../../platform/node/decodePhoto';
import { openBlobs } from '../../server/blobs/openBlobs';
import { readConfig } from '../../server/config/config';
import { installationProblem } from '../../server/installation';
import { openCollege } from '../../server/college/openCollege';
import { openData } from '../../server/openData';
import { createOfficeRepository } from '../../server/office/officeRepository';
import { DEMO_STUDENT, seedOffice } from '../../server/office/seedOffice';
import { PICTURE_SIZES, type PictureSize } from '../../contract/pictures';
import { createBoundFileRepository } from '../../server/repositories/boundFileRepository';
import { createChangeRepository } from '../../server/repositories/changeRepository';
import { createHandInRepository } from '../../server/repositories/handInRepository';
import { createOperationRepository } from '../../server/repositories/operationRepository';
import { createOriginalRepository } from '../../server/repositories/originalRepository';
import { createOwnerRepository } from '../../server/repositories/ownerRepository';
import { createPictureRepository } from '../../server/repositories/pictureRepository';
import { createApplyOperations } from '../../server/services/applyOperations';
import { DEMO_OWNER_ID } from '../../server/services/demoWelcome';

/* Fills a fresh database with Mira's hand-ins, one at every stage; does nothing where they are there. */

const DAY_MS = 24 * 3_600_000;

interface SeededHandIn {
  readonly id: string;
  readonly title: string;
  /** Photos whose names begin so. */
  readonly photos: string;
  readonly assignmentId: string;
  /** How far it has come. */
  readonly stage: 'begun' | 'problems' | 'bound' | 'handedIn' | 'returned';
}

const HAND_INS: readonly SeededHandIn[] = [
  {
    id: 'demo-returned',
    title: 'Set 3: rule of twelfths',
    photos: 'tides-1',
    assignmentId: 'tides-set-3',
    stage: 'returned',
  },
  {
    id: 'demo-plate-1',
    title: 'Plate 1: sea campion',
    photos: 'botany-2',
    assignmentId: 'botany-plate-1',
    stage: 'handedIn',
  },
  {
    id: 'demo-ropework',
    title: 'Plate 2: bowline and sheet bend',
    photos: 'ropework-',
    assignmentId: 'ropework-plate-2',
    stage: 'bound',
  },
  {
    id: 'demo-botany',
    title: 'Shore log: quadrat survey',
    photos: 'botany-1',
    assignmentId: 'botany-shore-log',
    stage: 'begun',
  },
  {
    id: 'demo-tides',
    title: 'Set 4: heights at a secondary port',
    photos: 'tides-',
    assignmentId: 'tides-set-4',
    stage: 'problems',
  },
];
const NOTES: readonly (readonly [page: number, text: string])[] = [
  [1, 'Good working. Mind the sign of the difference in 3.'],
  [0, '17 of 20.'],
];

const dataFolder = readConfig(process.env).DATA_DIR;
const photoFolder = path.join(dataFolder, 'practice-photos');
const data = openData(dataFolder);
const { db } = data;
const college = openCollege(dataFolder);
const office = createOfficeRepository(college.office);
const blobs = openBlobs(data);
const problem = await installationProblem({ data, office, blobs, demo: true, allowsMissingBytes: true });
if (problem !== null) {
  console.error(problem);
  process.exit(1);
}
seedOffice(office, Date.now());
const owners = createOwnerRepository(db);
const handIns = createHandInRepository(db);
const originals = createOriginalRepository(db);
const pictures = createPictureRepository(db);
const boundFiles = createBoundFileRepository(db, blobs);
const apply = createApplyOperations(db, {
  handIns,
  operations: createOperationRepository(db),
  originals,
  changes: createChangeRepository(db),
});
const sha256 = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

if (handIns.list(DEMO_OWNER_ID).length === 0) await seed();
for (const each of [db, data.bytesFile]) each.close();
for (const each of Object.values(college)) each.close();

async function seed(): Promise<void> {
  const names = readdirSync(photoFolder)
    .filter((f) => f.endsWith('.jpg'))
    .sort();
  const photos = await Promise.all(
    names.map(async (name) => {
      const bytes = readFileSync(path.join(photoFolder, name));
      const image = await decodePhoto(bytes, name);
      const [recipe] = startRecipes(image, {
        finish: 'daylight',
        kind: 'sheet',
        focalRatio: await readFocalRatio(Uint8Array.from(bytes)),
      });
      return {
        name,
        bytes,
        image,
        facts: checkPhotoFile(bytes, name),
        sha256: sha256(bytes),
        recipe,
        findings: inspectStart(image, recipe).findings,
        small: await smallPictures(bytes),
      };
    }),
  );
  const nowMs = Date.now();
  const rules = office.assignments();
  for (const photo of photos) {
    await blobs.put(photo.sha256, photo.bytes, nowMs);
    for (const { bytes } of photo.small) await blobs.put(sha256(bytes), bytes, nowMs);
  }
  db.transaction(() => {
    owners.add(DEMO_OWNER_ID, nowMs);
    const { first, family, number } = DEMO_STUDENT;
    owners.setProfile(DEMO_OWNER_ID, { first, family, number, paper: 'auto', name: null, courseNames: {} });
    for (const photo of photos) {
      originals.add(DEMO_OWNER_ID, photo.sha256, photo.facts);
      for (const { size, bytes } of photo.small) pictures.add(DEMO_OWNER_ID, photo.sha256, 0, size, sha256(bytes));
    }
    HAND_INS.forEach(({ id, title, photos: prefix, assignmentId }, h) => {
      const atMs = nowMs - (HAND_INS.length - h) * 3_600_000;
      const operations: Operation[] = [
        { id: `${id}-new`, kind: 'createHandIn', handInId: id, atMs, title, paper: 'auto' },
      ];
      for (const { name, sha256: originalId, image, recipe, findings } of photos.filter((p) =>
        p.name.startsWith(prefix),
      )) {
        const pageId = `${id}-${name.replace('.jpg', '')}`.slice(0, 40);
        operations.push({
          id: `${id}-${name}`,
          kind: 'addPage',
          handInId: id,
          atMs,
          pageId,
          originalId,
          fileName: name,
          width: image.width,
          height: image.height,
          recipe,
        });
        operations.push({
          id: `${id}-seen-${name}`,
          kind: 'noteFindings',
          handInId: id,
          atMs,
          pageId,
          originalId,
          findings,
        });
      }
      const { maxBytes, name } = rules.find((assignment) => assignment.id === assignmentId)!;
      operations.push({
        id: `${id}-for`,
        kind: 'changeHandIn',
        handInId: id,
        atMs,
        assignmentId,
        binding: { ...PLAIN_BINDING, maxBytes, name },
      });
      apply(DEMO_OWNER_ID, operations, nowMs);
    });
  })();
  const images = new Map(photos.map((photo) => [photo.sha256, photo.image]));
  for (const seeded of HAND_INS) {
    if (seeded.stage === 'begun' || seeded.stage === 'problems') continue;
    const handIn = handIns.find(DEMO_OWNER_ID, seeded.id)!;
    const file = await bind(handIn, images, nowMs);
    if (seeded.stage !== 'bound') handInAtOffice(handIn, file, seeded, nowMs);
  }
}

/** The pictures that a device sends before an original. */
function smallPictures(photo: Uint8Array): Promise<{ size: PictureSize; bytes: Uint8Array }[]> {
  return Promise.all(
    (Object.keys(PICTURE_SIZES) as PictureSize[]).map(async (size) => {
      const { longSidePx } = PICTURE_SIZES[size];
      return {
        size,
        bytes: new Uint8Array(
          await sharp(photo)
            .rotate()
            .resize({ width: longSidePx, height: longSidePx, fit: 'inside' })
            .jpeg({ quality: 84 })
            .toBuffer(),
        ),
      };
    }),
  );
}

async function bind(handIn: HandIn, images: ReadonlyMap<string, PixelImage>, nowMs: number): Promise<Uint8Array> {
  const coded = await Promise.all(
    handIn.pages.map(({ originalId, recipe }) =>
      renderCoded((use) => Promise.resolve(use(images.get(originalId)!)), recipe, {
        coding: FINEST,
        paper: handIn.paper,
        jpeg: jpegCodec,
      }),
    ),
  );
  const file = await bindPdf(
    coded.map((content, i) => ({ content, kind: handIn.pages[i]!.recipe.kind })),
    { title: handIn.title, paper: handIn.paper },
  );
  await blobs.put(sha256(file), file, nowMs);
  boundFiles.add(DEMO_OWNER_ID, handIn.id, {
    id: `${handIn.id}-file`,
    name: fileName(handIn),
    pages: handIn.pages.length,
    sha256: sha256(file),
    boundAtMs: nowMs,
    facts: { madeFrom: madeFromKey(handIn), pageBytes: coded.map(bytesOf), codings: coded.map(() => 0) },
  });
  return file;
}

function fileName({ title }: HandIn): string {
  return `${title.replace(/[^\w ]/g, '').replaceAll(' ', '-')}.pdf`;
}

function handInAtOffice(handIn: HandIn, file: Uint8Array, { assignmentId, stage }: SeededHandIn, nowMs: number): void {
  const atMs = nowMs - (stage === 'returned' ? 2 * DAY_MS : 8 * 3_600_000);
  const id = office.add(
    {
      assignment_id: assignmentId,
      account_id: DEMO_STUDENT.id,
      state: 'accepted',
      ready_at_ms: atMs,
      refusal: null,
      attempt: 1,
      receipt_number: `SP-${sha256(file).slice(0, 8).toUpperCase()}`,
      file_name: fileName(handIn),
      bytes: file.length,
      pages: handIn.pages.length,
      sha256: sha256(file),
      fields: '{}',
      comment: stage === 'returned' ? 'Question 4 continues overleaf.' : '',
      late: 0,
      at_ms: atMs,
    },
    `seeded-${assignmentId}`,
    file,
  );
  if (stage === 'returned') for (const [page, text] of NOTES) office.addNote(id, page, text);
}

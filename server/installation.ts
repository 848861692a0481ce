import { randomInt } from 'node:crypto';
import type { BlobStore } from './blobs/blobStore';
import { DEMO_ACCOUNT_IDS } from './office/seedOffice';
import type { OfficeRepository } from './office/officeRepository';
import type { OpenData } from './openData';
import { DEMO_OWNER_ID } from './services/demoWelcome';

export interface Installation {
  readonly data: OpenData;
  readonly office: OfficeRepository;
  readonly blobs: BlobStore;
  /** It is to be started as a demo. */
  readonly demo: boolean;
  readonly allowsMissingBytes: boolean;
}

/** As many of the newest and of the oldest blobs are looked for at a start. */
const LOOKED_FOR = 100;
const MOST_ID = 2 ** 31 - 1;

/** Why a server must not be started over this data, in a sentence with the way on; null where it may. */
export async function installationProblem({
  data,
  office,
  blobs,
  demo,
  allowsMissingBytes,
}: Installation): Promise<string | null> {
  return kindProblem(data, office, demo) ?? (await pairProblem(data, blobs, allowsMissingBytes));
}

/** A demo has accounts whose PINs everybody knows: it lives in a folder of its own, and never becomes anything else. */
function kindProblem({ db }: OpenData, office: OfficeRepository, demo: boolean): string | null {
  const demoNumbers = office
    .accounts()
    .filter(({ id }) => DEMO_ACCOUNT_IDS.has(id))
    .map(({ number }) => number);
  const isDemo =
    demoNumbers.length > 0 || db.prepare('SELECT 1 FROM owner WHERE id = ?').get(DEMO_OWNER_ID) !== undefined;
  if (!demo && isDemo) {
    const way =
      demoNumbers.length > 0
        ? ` To keep its data, first take away the accounts that everybody knows: npm run account -- remove ${demoNumbers.join(' ')}`
        : '';
    return `This data folder is a demo’s. Start it with DEMO=1, or point DATA_DIR at another folder.${way}`;
  }
  const isUsed = db.prepare('SELECT 1 FROM owner LIMIT 1').get() !== undefined || office.accounts().length > 0;
  if (demo && isUsed && !isDemo)
    return 'This data folder holds people’s work. A demo wants a folder of its own: point DATA_DIR at another one, or start without DEMO=1.';
  return null;
}

/** Both files carry the same number, and the bytes that are listed are there. */
async function pairProblem(
  { db, bytesFile }: OpenData,
  blobs: BlobStore,
  allowsMissingBytes: boolean,
): Promise<string | null> {
  const idOf = (each: typeof db): number => each.pragma('application_id', { simple: true }) as number;
  const ids = [idOf(db), idOf(bytesFile)] as const;
  const restore =
    'Restore both from one backup with npm run restore, or set ALLOW_MISSING_BYTES=1: devices then send what they still have.';
  if (ids[0] !== 0 && ids[1] !== 0 && ids[0] !== ids[1] && !allowsMissingBytes)
    return `fotoplan.sqlite and bytes.sqlite come from two installations. ${restore}`;
  const listed = (order: string) =>
    db
      .prepare<[number], { sha256: string }>(`SELECT sha256 FROM blob ORDER BY put_at_ms ${order} LIMIT ?`)
      .all(LOOKED_FOR);
  const looked = [...new Set([...listed('DESC'), ...listed('ASC')].map(({ sha256 }) => sha256))];
  const held = await Promise.all(looked.map((sha256) => blobs.holds(sha256)));
  const missing = held.filter((isHeld) => !isHeld).length;
  if (missing > 0 && !allowsMissingBytes)
    return `${missing} of ${looked.length} photos and files that were looked for are listed in fotoplan.sqlite, but their bytes are not there. ${restore}`;
  if (ids[0] === 0 || ids[0] !== ids[1]) {
    const id = ids[0] === 0 ? randomInt(1, MOST_ID) : ids[0];
    for (const each of [db, bytesFile]) each.pragma(`application_id = ${id}`);
  }
  return null;
}

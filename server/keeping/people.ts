import { closeSync, openSync, renameSync, rmSync, writeSync } from 'node:fs';
import { Zip, ZipPassThrough } from 'fflate';
import { BUNDLE_INDEX, bundleOf, originalPath, withFiles } from '../../core/work/bundle/bundle';
import type { BlobStore } from '../blobs/blobStore';
import type { Database } from '../database';
import { createBoundFileRepository } from '../repositories/boundFileRepository';
import { createHandInRepository } from '../repositories/handInRepository';
import { createOwnerRepository } from '../repositories/ownerRepository';

/** A file of hundreds of pages came without its facts: it counts as out of date. */
const UNKNOWN = '0'.repeat(64);

export interface FoundPerson {
  readonly id: string;
  /** As their profile says. */
  readonly name: string;
  readonly number: string;
  readonly handIns: number;
  readonly screens: number;
  readonly seenAtMs: number | null;
}

/** People whose profile has this in their name or number, or of whom it is the id or a hand-in's id. Fotoplan has no accounts: a person is who has linked screens. */
export function findPeople(db: Database, text: string): readonly FoundPerson[] {
  const rows = db
    .prepare<
      { text: string },
      { id: string; profile: string | null; hand_ins: number; screens: number; seen_at_ms: number | null }
    >(
      `SELECT owner.id, profile.profile, (SELECT count(*) FROM hand_in WHERE owner_id = owner.id) AS hand_ins, (SELECT count(*) FROM screen WHERE owner_id = owner.id AND cut_off = 0) AS screens,
         (SELECT max(seen_at_ms) FROM screen WHERE owner_id = owner.id) AS seen_at_ms
       FROM owner LEFT JOIN profile ON profile.owner_id = owner.id
       WHERE erased_at_ms IS NULL AND (owner.id = @text OR EXISTS (SELECT 1 FROM hand_in WHERE owner_id = owner.id AND hand_in.id = @text)
         OR instr(lower(json_extract(profile, '$.first') || ' ' || json_extract(profile, '$.family') || ' ' || json_extract(profile, '$.number')), lower(@text)) > 0)
       ORDER BY owner.created_at_ms`,
    )
    .all({ text });
  return rows.map(({ id, profile, hand_ins, screens, seen_at_ms }) => {
    const {
      first = '',
      family = '',
      number = '',
    } = profile === null ? {} : (JSON.parse(profile) as { first?: string; family?: string; number?: string });
    return { id, name: `${first} ${family}`.trim(), number, handIns: hand_ins, screens, seenAtMs: seen_at_ms };
  });
}

/**
 * All that is kept of a person, as a zip that Fotoplan can bring in again (docs/bundle.md), with their profile beside it. Photos go
 * into it one at a time.
 * @throws Error where there is no such person
 */
export async function exportPerson(db: Database, blobs: BlobStore, ownerId: string, toFile: string): Promise<void> {
  const person = findPeople(db, ownerId).find(({ id }) => id === ownerId);
  if (person === undefined) throw new Error(`There is nobody with the id ${ownerId}. See: npm run person -- find NAME`);
  const handIns = createHandInRepository(db).list(ownerId);
  const boundFiles = createBoundFileRepository(db, blobs);
  const profile = createOwnerRepository(db).profile(ownerId);
  const files = handIns.map(({ id }) => {
    const [latest] = boundFiles.list(ownerId, id);
    const { madeFrom = UNKNOWN, pageBytes = [], codings = [] } = latest?.facts ?? {};
    return latest === undefined ? null : { ...latest, madeFrom, pageBytes, codings };
  });
  const bundled = withFiles(handIns, files);
  const making = `${toFile}.making`;
  const out = openSync(making, 'w', 0o600);
  try {
    const zip = new Zip((error, data) => {
      if (error !== null) throw error;
      writeSync(out, data);
    });
    const add = async (name: string, bytes: AsyncIterable<Uint8Array> | Iterable<Uint8Array>): Promise<void> => {
      const entry = new ZipPassThrough(name);
      zip.add(entry);
      for await (const part of bytes) entry.push(part);
      entry.push(new Uint8Array(), true);
    };
    const text = (value: unknown): Uint8Array[] => [new TextEncoder().encode(JSON.stringify(value, null, 2))];
    await add(BUNDLE_INDEX, text(bundleOf(bundled)));
    if (profile !== null) await add('profile.json', text(profile));
    const originalIds = new Set(handIns.flatMap(({ pages }) => pages.map(({ originalId }) => originalId)));
    for (const originalId of originalIds) await add(originalPath(originalId), blobs.read(originalId));
    for (const { file } of bundled) if (file !== null) await add(file.path, blobs.read(file.sha256));
    zip.end();
  } catch (error) {
    closeSync(out);
    rmSync(making);
    throw error;
  }
  closeSync(out);
  renameSync(making, toFile);
}

/**
 * Deletes all that is kept of a person, on the server and, once they next ask, on their devices. The bytes go with the next clean-up.
 * @throws Error where there is no such person
 */
export function deletePerson(db: Database, ownerId: string, nowMs: number): void {
  if (!findPeople(db, ownerId).some(({ id }) => id === ownerId))
    throw new Error(`There is nobody with the id ${ownerId}. See: npm run person -- find NAME`);
  createOwnerRepository(db).erase(ownerId, nowMs);
}

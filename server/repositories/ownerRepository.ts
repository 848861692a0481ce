import type { ProfileView } from '../../contract/views';
import type { Database } from '../database';

export type OwnerRepository = ReturnType<typeof createOwnerRepository>;

export function createOwnerRepository(db: Database) {
  const insert = db.prepare<[string, string, number]>('INSERT INTO owner (id, token_sha256, created_at_ms) VALUES (?, ?, ?)');
  const profile = db.prepare<[string], { profile: string }>('SELECT profile FROM profile WHERE owner_id = ?');
  const setProfile = db.prepare<[string, string]>('INSERT INTO profile (owner_id, profile) VALUES (?, ?) ON CONFLICT (owner_id) DO UPDATE SET profile = excluded.profile');
  return {
    // the column is from when an owner had one screen, whose key it was
    add: (id: string, nowMs: number): void => void insert.run(id, `owner ${id}`, nowMs),
    profile(ownerId: string): ProfileView | null {
      const row = profile.get(ownerId);
      return row === undefined ? null : (JSON.parse(row.profile) as ProfileView);
    },
    setProfile: (ownerId: string, to: ProfileView): void => void setProfile.run(ownerId, JSON.stringify(to)),
  };
}

import type { ProfileView } from '../../contract/views';
import type { Database } from '../database';

export type OwnerRepository = ReturnType<typeof createOwnerRepository>;

export function createOwnerRepository(db: Database) {
  const insert = db.prepare<[string, string, number]>(
    'INSERT INTO owner (id, token_sha256, created_at_ms) VALUES (?, ?, ?)',
  );
  const profile = db.prepare<[string], { profile: string }>('SELECT profile FROM profile WHERE owner_id = ?');
  const setProfile = db.prepare<[string, string]>(
    'INSERT INTO profile (owner_id, profile) VALUES (?, ?) ON CONFLICT (owner_id) DO UPDATE SET profile = excluded.profile',
  );
  /** In this order for the references' sake; the screens stay, cut off, so that none of them comes back as somebody new with the work of before. */
  const erase = [
    'DELETE FROM hand_in WHERE owner_id = @ownerId',
    'DELETE FROM original WHERE owner_id = @ownerId',
    'DELETE FROM picture WHERE owner_id = @ownerId',
    // of those, too, who came along by a link
    'DELETE FROM profile WHERE owner_id = @ownerId OR owner_id IN (SELECT came_from FROM screen WHERE screen.owner_id = @ownerId)',
    "UPDATE screen SET person = '' WHERE owner_id = @ownerId",
    'DELETE FROM change WHERE owner_id = @ownerId',
    'DELETE FROM gone_hand_in WHERE owner_id = @ownerId',
    'DELETE FROM applied_operation WHERE owner_id = @ownerId',
    'DELETE FROM link_code WHERE owner_id = @ownerId',
    'DELETE FROM recovery_code WHERE owner_id = @ownerId',
    'UPDATE screen SET cut_off = 1 WHERE owner_id = @ownerId',
    'UPDATE owner SET erased_at_ms = @nowMs WHERE id = @ownerId',
  ].map((sql) => db.prepare<{ ownerId: string; nowMs: number }>(sql));
  return {
    // the column is from when an owner had one screen, whose key it was
    add: (id: string, nowMs: number): void => void insert.run(id, `owner ${id}`, nowMs),
    profile(ownerId: string): ProfileView | null {
      const row = profile.get(ownerId);
      return row === undefined ? null : (JSON.parse(row.profile) as ProfileView);
    },
    /** Deletes all that an owner has, and cuts their screens off; the clean-up frees the bytes. */
    erase: db.transaction((ownerId: string, nowMs: number) => {
      for (const step of erase) step.run({ ownerId, nowMs });
    }),
    setProfile: (ownerId: string, to: ProfileView): void => void setProfile.run(ownerId, JSON.stringify(to)),
  };
}

/**
 * What came along when a screen was linked, so that it can leave again: hand-ins and screens remember the owner they had before. Who
 * made a code, so that whoever takes it sees whose work they join; and what a linked screen's person is called.
 */
export const addJoins = `
ALTER TABLE hand_in ADD COLUMN came_from TEXT;
CREATE INDEX hand_in_came_from ON hand_in (owner_id, came_from);
ALTER TABLE screen ADD COLUMN came_from TEXT;
ALTER TABLE screen ADD COLUMN left_owner TEXT;
ALTER TABLE screen ADD COLUMN person TEXT NOT NULL DEFAULT '';
ALTER TABLE link_code ADD COLUMN screen_id TEXT REFERENCES screen (id) ON DELETE CASCADE;
`;

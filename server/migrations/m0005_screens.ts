/**
 * Several screens of one owner, codes that link them, what an owner is called, uploads in parts, and what a bound file was
 * made from. owner.token_sha256 is no longer read: the keys are the screens' own.
 */
export const addScreens = `
CREATE TABLE screen (
  id TEXT PRIMARY KEY,
  owner_id TEXT NOT NULL REFERENCES owner (id) ON DELETE CASCADE,
  token_sha256 TEXT NOT NULL UNIQUE,
  kind TEXT NOT NULL,
  created_at_ms INTEGER NOT NULL,
  seen_at_ms INTEGER NOT NULL,
  cut_off INTEGER NOT NULL DEFAULT 0
) STRICT;
CREATE INDEX screen_of_owner ON screen (owner_id);
INSERT INTO screen (id, owner_id, token_sha256, kind, created_at_ms, seen_at_ms)
  SELECT lower(hex(randomblob(16))), id, token_sha256, 'Computer', created_at_ms, created_at_ms FROM owner WHERE token_sha256 <> 'no-token';

CREATE TABLE link_code (
  code_sha256 TEXT PRIMARY KEY,
  owner_id TEXT NOT NULL REFERENCES owner (id) ON DELETE CASCADE,
  expires_at_ms INTEGER NOT NULL
) STRICT;

CREATE TABLE profile (
  owner_id TEXT PRIMARY KEY REFERENCES owner (id) ON DELETE CASCADE,
  profile TEXT NOT NULL
) STRICT;

CREATE TABLE upload_part (
  owner_id TEXT NOT NULL REFERENCES owner (id) ON DELETE CASCADE,
  sha256 TEXT NOT NULL,
  seq INTEGER NOT NULL,
  at_ms INTEGER NOT NULL,
  data BLOB NOT NULL,
  PRIMARY KEY (owner_id, sha256, seq)
) STRICT, WITHOUT ROWID;

ALTER TABLE hand_in ADD COLUMN sample INTEGER NOT NULL DEFAULT 0;
ALTER TABLE bound_file ADD COLUMN facts TEXT NOT NULL DEFAULT '{}';
ALTER TABLE blob ADD COLUMN put_at_ms INTEGER NOT NULL DEFAULT 0;
CREATE INDEX page_original ON page (owner_id, original_sha256);
CREATE INDEX original_blob ON original (sha256);
CREATE INDEX bound_file_of_hand_in ON bound_file (owner_id, hand_in_id, bound_at_ms);
CREATE INDEX bound_file_blob ON bound_file (sha256);
`;

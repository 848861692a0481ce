/**
 * A numbered log of what changed, so that a screen asks only for what is new; when pages and hand-ins were deleted, by the
 * person's clock and by ours; hand-ins deleted for good, and since when nobody shows an original; small pictures of originals; recovery codes; owners who deleted everything.
 */
export const addChanges = `
ALTER TABLE owner ADD COLUMN last_seq INTEGER NOT NULL DEFAULT 0;
ALTER TABLE owner ADD COLUMN erased_at_ms INTEGER;

ALTER TABLE hand_in ADD COLUMN removed_at_ms INTEGER;
ALTER TABLE hand_in ADD COLUMN removed_seen_ms INTEGER;
ALTER TABLE hand_in ADD COLUMN deleted_pages TEXT NOT NULL DEFAULT '[]';
UPDATE hand_in SET removed_at_ms = changed_at_ms WHERE removed = 1;
ALTER TABLE hand_in DROP COLUMN removed;

ALTER TABLE page ADD COLUMN removed_at_ms INTEGER;
ALTER TABLE page ADD COLUMN removed_seen_ms INTEGER;
ALTER TABLE page ADD COLUMN findings TEXT;
UPDATE page SET removed_at_ms = (SELECT changed_at_ms FROM hand_in WHERE hand_in.id = page.hand_in_id) WHERE removed = 1;
ALTER TABLE page DROP COLUMN removed;

ALTER TABLE original ADD COLUMN let_go_at_ms INTEGER;

CREATE TABLE gone_hand_in (
  owner_id TEXT NOT NULL REFERENCES owner (id) ON DELETE CASCADE,
  id TEXT NOT NULL,
  PRIMARY KEY (owner_id, id)
) STRICT, WITHOUT ROWID;

CREATE TABLE change (
  owner_id TEXT NOT NULL REFERENCES owner (id) ON DELETE CASCADE,
  kind TEXT NOT NULL,
  subject TEXT NOT NULL,
  seq INTEGER NOT NULL,
  PRIMARY KEY (owner_id, kind, subject)
) STRICT, WITHOUT ROWID;
CREATE INDEX change_by_seq ON change (owner_id, seq);
INSERT INTO change (owner_id, kind, subject, seq)
  SELECT owner_id, kind, subject, row_number() OVER (PARTITION BY owner_id ORDER BY kind DESC, subject) FROM (
    SELECT owner_id, 'handIn' AS kind, id AS subject FROM hand_in
    UNION SELECT owner_id, 'boundFile', hand_in_id FROM bound_file
    UNION SELECT owner_id, 'profile', '' FROM profile);
UPDATE owner SET last_seq = (SELECT count(*) FROM change WHERE owner_id = owner.id);

CREATE TABLE picture (
  owner_id TEXT NOT NULL REFERENCES owner (id) ON DELETE CASCADE,
  original_sha256 TEXT NOT NULL,
  pdf_page INTEGER NOT NULL,
  size TEXT NOT NULL,
  sha256 TEXT NOT NULL REFERENCES blob (sha256),
  PRIMARY KEY (owner_id, original_sha256, pdf_page, size)
) STRICT, WITHOUT ROWID;
CREATE INDEX picture_blob ON picture (sha256);

CREATE TABLE recovery_code (
  owner_id TEXT PRIMARY KEY REFERENCES owner (id) ON DELETE CASCADE,
  code_sha256 TEXT NOT NULL UNIQUE,
  made_at_ms INTEGER NOT NULL
) STRICT;
`;

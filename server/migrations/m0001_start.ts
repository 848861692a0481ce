export const start = `
CREATE TABLE owner (
  id TEXT PRIMARY KEY,
  token_sha256 TEXT NOT NULL UNIQUE,
  created_at_ms INTEGER NOT NULL
) STRICT;

CREATE TABLE blob (
  sha256 TEXT PRIMARY KEY,
  bytes INTEGER NOT NULL
) STRICT;

CREATE TABLE blob_chunk (
  sha256 TEXT NOT NULL REFERENCES blob (sha256) ON DELETE CASCADE,
  seq INTEGER NOT NULL,
  data BLOB NOT NULL,
  PRIMARY KEY (sha256, seq)
) STRICT, WITHOUT ROWID;

CREATE TABLE original (
  owner_id TEXT NOT NULL REFERENCES owner (id) ON DELETE CASCADE,
  sha256 TEXT NOT NULL REFERENCES blob (sha256),
  type TEXT NOT NULL,
  width INTEGER NOT NULL,
  height INTEGER NOT NULL,
  PRIMARY KEY (owner_id, sha256)
) STRICT;

CREATE TABLE hand_in (
  id TEXT PRIMARY KEY,
  owner_id TEXT NOT NULL REFERENCES owner (id) ON DELETE CASCADE,
  title TEXT NOT NULL,
  paper TEXT NOT NULL,
  removed INTEGER NOT NULL,
  created_at_ms INTEGER NOT NULL,
  changed_at_ms INTEGER NOT NULL
) STRICT;
CREATE INDEX hand_in_of_owner ON hand_in (owner_id, changed_at_ms);

CREATE TABLE page (
  hand_in_id TEXT NOT NULL REFERENCES hand_in (id) ON DELETE CASCADE,
  id TEXT NOT NULL,
  owner_id TEXT NOT NULL,
  position INTEGER NOT NULL,
  original_sha256 TEXT NOT NULL,
  file_name TEXT NOT NULL,
  width INTEGER NOT NULL,
  height INTEGER NOT NULL,
  recipe TEXT NOT NULL,
  removed INTEGER NOT NULL,
  PRIMARY KEY (hand_in_id, id),
  FOREIGN KEY (owner_id, original_sha256) REFERENCES original (owner_id, sha256)
) STRICT;

CREATE TABLE applied_operation (
  owner_id TEXT NOT NULL REFERENCES owner (id) ON DELETE CASCADE,
  id TEXT NOT NULL,
  PRIMARY KEY (owner_id, id)
) STRICT, WITHOUT ROWID;

CREATE TABLE bound_file (
  id TEXT PRIMARY KEY,
  owner_id TEXT NOT NULL REFERENCES owner (id) ON DELETE CASCADE,
  hand_in_id TEXT NOT NULL REFERENCES hand_in (id) ON DELETE CASCADE,
  sha256 TEXT NOT NULL REFERENCES blob (sha256),
  name TEXT NOT NULL,
  pages INTEGER NOT NULL,
  bound_at_ms INTEGER NOT NULL
) STRICT;
`;

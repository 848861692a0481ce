/** The locker's own file: folders and the files in them. */
export const LOCKER_MIGRATIONS: readonly string[] = [
  `
CREATE TABLE folder (
  account_id TEXT NOT NULL,
  path TEXT NOT NULL,
  PRIMARY KEY (account_id, path)
) STRICT, WITHOUT ROWID;

CREATE TABLE file (
  id TEXT PRIMARY KEY,
  account_id TEXT NOT NULL,
  path TEXT NOT NULL,
  name TEXT NOT NULL,
  bytes INTEGER NOT NULL,
  sha256 TEXT NOT NULL,
  at_ms INTEGER NOT NULL,
  data BLOB NOT NULL,
  UNIQUE (account_id, path, name)
) STRICT;
`,
  `
CREATE TABLE piece (
  data_id TEXT NOT NULL,
  seq INTEGER NOT NULL,
  data BLOB NOT NULL,
  PRIMARY KEY (data_id, seq)
) STRICT;
INSERT INTO piece SELECT id, 0, data FROM file;
ALTER TABLE file ADD COLUMN data_id TEXT NOT NULL DEFAULT '';
UPDATE file SET data_id = id;
ALTER TABLE file DROP COLUMN data;
`,
];

import { openDatabase, type Database } from '../database';

const start = `
CREATE TABLE body (
  sha256 TEXT PRIMARY KEY,
  put_at_ms INTEGER NOT NULL
) STRICT;

CREATE TABLE chunk (
  sha256 TEXT NOT NULL REFERENCES body (sha256) ON DELETE CASCADE,
  seq INTEGER NOT NULL,
  data BLOB NOT NULL,
  PRIMARY KEY (sha256, seq)
) STRICT, WITHOUT ROWID;

CREATE TABLE upload_part (
  owner_id TEXT NOT NULL,
  sha256 TEXT NOT NULL,
  seq INTEGER NOT NULL,
  at_ms INTEGER NOT NULL,
  data BLOB NOT NULL,
  PRIMARY KEY (owner_id, sha256, seq)
) STRICT, WITHOUT ROWID;
`;

/** The megabytes, in a file of their own: while they are written and synced, nothing small waits for its turn to write. */
export const openBytesFile = (file: string): Database => openDatabase(file, [start]);

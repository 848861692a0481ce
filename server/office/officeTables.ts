/** The course office keeps its own file: it knows nothing of Fotoplan's, and Fotoplan nothing of its. */
export const OFFICE_MIGRATIONS: readonly string[] = [
  `
CREATE TABLE account (
  id TEXT PRIMARY KEY,
  family TEXT NOT NULL,
  first TEXT NOT NULL,
  number TEXT NOT NULL UNIQUE,
  pin_salt TEXT NOT NULL,
  pin_hash TEXT NOT NULL,
  reader INTEGER NOT NULL
) STRICT;

CREATE TABLE session (
  token_sha256 TEXT PRIMARY KEY,
  account_id TEXT NOT NULL REFERENCES account (id) ON DELETE CASCADE,
  service TEXT NOT NULL,
  created_at_ms INTEGER NOT NULL
) STRICT;

CREATE TABLE assignment (
  id TEXT PRIMARY KEY,
  position INTEGER NOT NULL,
  due_ms INTEGER NOT NULL,
  rules TEXT NOT NULL
) STRICT;

CREATE TABLE submission (
  id TEXT PRIMARY KEY,
  assignment_id TEXT NOT NULL REFERENCES assignment (id),
  account_id TEXT NOT NULL REFERENCES account (id),
  idempotency_key TEXT NOT NULL,
  state TEXT NOT NULL CHECK (state IN ('queued', 'accepted', 'refused', 'withdrawn')),
  ready_at_ms INTEGER NOT NULL,
  refusal TEXT,
  attempt INTEGER NOT NULL,
  receipt_number TEXT NOT NULL UNIQUE,
  file_name TEXT NOT NULL,
  bytes INTEGER NOT NULL,
  pages INTEGER NOT NULL,
  sha256 TEXT NOT NULL,
  fields TEXT NOT NULL,
  comment TEXT NOT NULL,
  late INTEGER NOT NULL,
  at_ms INTEGER NOT NULL,
  file BLOB NOT NULL,
  UNIQUE (account_id, idempotency_key)
) STRICT;
CREATE INDEX submission_of_account ON submission (account_id, assignment_id, at_ms);

CREATE TABLE note (
  submission_id TEXT NOT NULL REFERENCES submission (id) ON DELETE CASCADE,
  seq INTEGER NOT NULL,
  page INTEGER NOT NULL,
  text TEXT NOT NULL,
  PRIMARY KEY (submission_id, seq)
) STRICT;
`,
  // sessions end; those of before have been seen when they were made
  `
ALTER TABLE session ADD COLUMN seen_at_ms INTEGER NOT NULL DEFAULT 0;
UPDATE session SET seen_at_ms = created_at_ms;
CREATE INDEX submission_queued ON submission (ready_at_ms) WHERE state = 'queued';
`,
];

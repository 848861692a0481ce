/** The post tray's own file: mails that went out, each with its one attachment. */
export const POST_MIGRATIONS: readonly string[] = [
  `
CREATE TABLE message (
  id TEXT PRIMARY KEY,
  account_id TEXT NOT NULL,
  idempotency_key TEXT NOT NULL,
  "to" TEXT NOT NULL,
  subject TEXT NOT NULL,
  text TEXT NOT NULL,
  name TEXT NOT NULL,
  bytes INTEGER NOT NULL,
  sha256 TEXT NOT NULL,
  at_ms INTEGER NOT NULL,
  data BLOB NOT NULL,
  UNIQUE (account_id, idempotency_key)
) STRICT;
`,
];

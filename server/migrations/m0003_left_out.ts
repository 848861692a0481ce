/** Pages that stay out of the file, and when they were shot. */
export const addLeftOut = `
ALTER TABLE page ADD COLUMN left_out INTEGER NOT NULL DEFAULT 0;
ALTER TABLE page ADD COLUMN taken_at_ms INTEGER;
`;

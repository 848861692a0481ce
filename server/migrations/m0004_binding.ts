/** How a hand-in is bound, as JSON, and what it is handed in for. */
export const addBinding = `
ALTER TABLE hand_in ADD COLUMN binding TEXT NOT NULL DEFAULT '{}';
ALTER TABLE hand_in ADD COLUMN assignment_id TEXT;
`;

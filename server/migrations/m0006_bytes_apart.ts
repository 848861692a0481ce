/** The bytes lie in a file of their own; openData brings them there before this runs. */
export const dropBytes = `
DROP TABLE blob_chunk;
DROP TABLE upload_part;
`;

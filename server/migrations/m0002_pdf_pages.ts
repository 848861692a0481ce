/** Which page of its original a page shows, where that is a PDF. */
export const addPdfPages = `
ALTER TABLE page ADD COLUMN pdf_page INTEGER;
`;

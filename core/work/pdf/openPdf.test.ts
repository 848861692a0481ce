import { PDFDocument } from '@cantoo/pdf-lib';
import { openPdf } from './openPdf';

/** Two pages that nobody may change; to be read with a password, or by all. */
async function locked(userPassword: string): Promise<Uint8Array> {
  const pdf = await PDFDocument.create();
  pdf.addPage([300, 400]);
  pdf.addPage([300, 400]);
  pdf.encrypt({ ownerPassword: 'the office', userPassword, permissions: { modifying: false } });
  return pdf.save();
}

describe('a PDF with a password', () => {
  it('opens where the password only forbids changes', async () =>
    expect((await openPdf(await locked(''))).getPageCount()).toBe(2));

  it('is asked for without one where it is needed to read it', async () =>
    expect(openPdf(await locked('a secret'), '“handout.pdf”')).rejects.toThrow(
      '“handout.pdf” is locked with a password. Save a copy without one and add that.',
    ));
});

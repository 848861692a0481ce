import { PDFDocument } from '@cantoo/pdf-lib';
import { measurePdf, openPdf } from './openPdf';

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

  it('tells what its owner forbids', async () => {
    const { pages, forbids } = await measurePdf(await locked(''), 'handout.pdf');
    expect([pages.length, forbids]).toEqual([2, ['print', 'change', 'copy', 'annotate']]);
    const open = await PDFDocument.create();
    open.addPage([300, 400]);
    expect((await measurePdf(await open.save(), 'handout.pdf')).forbids).toEqual([]);
  });

  it('is asked for without one where it is needed to read it', async () =>
    expect(openPdf(await locked('a secret'), '“handout.pdf”')).rejects.toThrow(
      '“handout.pdf” is locked with a password. Save a copy without one and add that.',
    ));
});

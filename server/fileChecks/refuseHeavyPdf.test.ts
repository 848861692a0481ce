import { deflateSync } from 'node:zlib';
import { PDFDocument } from '@cantoo/pdf-lib';
import { inlineFileChecks } from './fileChecks';

const header = Buffer.from('%PDF-1.7\n');
const objectStream = (content: Buffer, n: number): Buffer => {
  const packed = deflateSync(content);
  return Buffer.concat([
    Buffer.from(
      `5 0 obj\n<< /Type /ObjStm /N ${n} /First 8 /Filter /FlateDecode /Length ${packed.length} >>\nstream\n`,
    ),
    packed,
    Buffer.from('\nendstream\nendobj\n'),
  ]);
};
const refusal = (pdf: Uint8Array): Promise<string> =>
  inlineFileChecks.pdfPages(pdf).then(
    (pages) => `${pages} pages`,
    (error: Error) => error.message,
  );

it('a PDF whose objects unpack to hundreds of megabytes is refused before it is opened', async () => {
  const bomb = Buffer.concat([header, objectStream(Buffer.alloc(200_000_000, ' '), 1)]);
  expect(bomb.length).toBeLessThan(250_000);
  expect(await refusal(bomb)).toMatch(/unpacks to far more/);
  // many that are large only together
  expect(
    await refusal(
      Buffer.concat([header, ...Array.from({ length: 6 }, () => objectStream(Buffer.alloc(8_000_000, ' '), 1))]),
    ),
  ).toMatch(/unpacks to far more/);
});

it('a PDF of very many objects is refused', async () => {
  expect(await refusal(Buffer.concat([header, objectStream(Buffer.from('1 0 null'), 2_000_000)]))).toMatch(
    /unpacks to far more/,
  );
  expect(await refusal(Buffer.concat([header, Buffer.from('1 0 obj\nnull\nendobj\n'.repeat(300_001))]))).toMatch(
    /unpacks to far more/,
  );
});

it('a PDF of a thousand pages is opened', async () => {
  const pdf = await PDFDocument.create();
  for (let n = 0; n < 1000; n++) pdf.addPage().drawText(`Page ${n}`);
  expect(await refusal(await pdf.save())).toBe('1000 pages');
});

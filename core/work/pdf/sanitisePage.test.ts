import { PDFDocument, PDFName, PDFString } from '@cantoo/pdf-lib';
import { bindPdf } from './bindPdf';

async function hostile(): Promise<Uint8Array> {
  const pdf = await PDFDocument.create();
  const page = pdf.addPage([300, 400]);
  page.drawRectangle({ x: 50, y: 50, width: 100, height: 100 });
  const { context } = pdf;
  const action = (kind: string, extra: Record<string, unknown>) =>
    context.obj({ Type: 'Action', S: kind, ...extra } as never);
  const annotation = (subtype: string, extra: Record<string, unknown>) =>
    context.register(context.obj({ Type: 'Annot', Subtype: subtype, Rect: [0, 0, 50, 50], ...extra } as never));
  page.node.set(
    PDFName.of('AA'),
    context.obj({ O: action('JavaScript', { JS: PDFString.of('app.alert("opened")') }) }),
  );
  page.node.set(PDFName.of('Metadata'), context.register(context.stream('<x>Someone’s camera</x>')));
  page.node.set(
    PDFName.of('Annots'),
    context.obj([
      annotation('Link', { A: action('URI', { URI: PDFString.of('https://elsewhere.example/track') }) }),
      annotation('Link', { A: action('Launch', { F: PDFString.of('program.exe') }) }),
      annotation('FileAttachment', { FS: context.obj({ F: PDFString.of('secret.doc') }) }),
      annotation('Square', { C: [1, 0, 0] }),
    ]),
  );
  return pdf.save({ useObjectStreams: false });
}

describe('a PDF page from elsewhere', () => {
  it('comes without what runs, leads out or tells of its making, and keeps what is drawn', async () => {
    const file = await bindPdf([{ content: { pdf: await hostile(), pdfPage: 0, quarterTurns: 0, pagesTaken: 1 } }], {
      title: 'Set 4',
      paper: 'auto',
    });
    const pdf = await PDFDocument.load(file);
    const text = [...pdf.context.enumerateIndirectObjects()].map(([, object]) => object.toString()).join('\n');
    for (const bad of ['JavaScript', 'elsewhere.example', 'program.exe', 'secret.doc', 'camera'])
      expect(text).not.toContain(bad);
    expect(text).toContain('/Square');
    expect(pdf.getPage(0).getSize()).toEqual({ width: 300, height: 400 });
  });
});

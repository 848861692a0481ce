import { PDFDocument, PDFName, PDFRawStream } from '@cantoo/pdf-lib';
import { zlibSync } from 'fflate';
import sharp from 'sharp';
import { bindPdf } from './bindPdf';
import { plainJpeg } from './plainJpeg';

const SECRETS = ['SECRETMAKE', 'SECRETXMP', 'SECRETNOTE'];
let telling: Uint8Array;
let pixels: Buffer;
beforeAll(async () => {
  const plain = sharp({ create: { width: 64, height: 48, channels: 3, background: { r: 90, g: 120, b: 60 } } });
  const jpeg = await plain
    .withExif({ IFD0: { Make: 'SECRETMAKE' }, IFD3: { GPSLatitudeRef: 'N', GPSLatitude: '54/1 30/1 0/1' } })
    .withXmp(
      '<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#"><rdf:Description xmlns:a="urn:a" a:note="SECRETXMP"/></rdf:RDF></x:xmpmeta>',
    )
    .jpeg()
    .toBuffer();
  const note = Buffer.from('SECRETNOTE');
  telling = Buffer.concat([jpeg.subarray(0, 2), Buffer.from([0xff, 0xfe, 0, note.length + 2]), note, jpeg.subarray(2)]);
  pixels = await sharp(telling).raw().toBuffer();
});
const tells = (bytes: Uint8Array): string[] => SECRETS.filter((secret) => Buffer.from(bytes).includes(secret));

describe('a JPEG', () => {
  it('loses what tells of its making, and not a pixel', async () => {
    expect(tells(telling)).toEqual(SECRETS);
    const plain = plainJpeg(telling);
    expect(tells(plain)).toEqual([]);
    expect((await sharp(plain).metadata()).exif).toBeUndefined();
    expect((await sharp(plain).raw().toBuffer()).equals(pixels)).toBe(true);
    expect(plainJpeg(plain)).toBe(plain);
  });

  it.each([
    ['no JPEG', [1, 2, 3, 4]],
    ['a segment that is shorter than its length', [0xff, 0xd8, 0xff, 0xe1, 0, 0, 1, 2, 3]],
    ['nothing after its start', [0xff, 0xd8]],
  ])('%s is left as it is', (_what, bytes) => {
    const given = Uint8Array.from(bytes);
    expect(plainJpeg(given)).toEqual(given);
  });

  it('cut short in a segment keeps no secret of it', () =>
    expect(tells(plainJpeg(telling.subarray(0, 40)))).toEqual([]));
});

describe('a page taken over from a PDF', () => {
  it.each(['plainly', 'packed', 'in a form'])('carries no picture that tells of its making: %s', async (how) => {
    const source = await PDFDocument.create();
    const page = source.addPage([200, 200]);
    const dict = {
      Type: 'XObject',
      Subtype: 'Image',
      Width: 64,
      Height: 48,
      ColorSpace: 'DeviceRGB',
      BitsPerComponent: 8,
      Filter: how === 'packed' ? ['FlateDecode', 'DCTDecode'] : 'DCTDecode',
    };
    const image = source.context.register(source.context.stream(how === 'packed' ? zlibSync(telling) : telling, dict));
    const shown =
      how === 'in a form'
        ? source.context.register(
            source.context.stream('/Im0 Do', {
              Type: 'XObject',
              Subtype: 'Form',
              BBox: [0, 0, 1, 1],
              Resources: { XObject: { Im0: image } },
            }),
          )
        : image;
    page.node.set(
      PDFName.of('Contents'),
      source.context.register(source.context.stream(`/${page.node.newXObject('Im', shown).decodeText()} Do`)),
    );
    const bound = await bindPdf(
      [
        {
          content: { pdf: await source.save({ useObjectStreams: false }), pdfPage: 0, quarterTurns: 0 },
          kind: 'sheet',
        },
      ] as never,
      { title: 'Set 4', paper: 'auto' } as never,
    );
    const streams = (await PDFDocument.load(bound)).context
      .enumerateIndirectObjects()
      .flatMap(([, object]) =>
        object instanceof PDFRawStream && object.dict.get(PDFName.of('Subtype')) === PDFName.of('Image')
          ? [object.contents]
          : [],
      );
    expect(streams).toHaveLength(1);
    expect(tells(bound)).toEqual([]);
    expect((await sharp(streams[0]).raw().toBuffer()).equals(pixels)).toBe(true);
  });
});

import {
  decodePDFRawStream,
  PDFArray,
  PDFDict,
  PDFDocument,
  PDFName,
  PDFRawStream,
  PDFString,
  StandardFonts,
} from '@cantoo/pdf-lib';
import { bindPdf } from '../bindPdf';

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

const name = (text: string): PDFName => PDFName.of(text);

/** Everything that can be read in a file: its objects, and its streams unpacked. */
async function everythingIn(file: Uint8Array): Promise<string> {
  const pdf = await PDFDocument.load(file, { updateMetadata: false });
  return pdf.context
    .enumerateIndirectObjects()
    .map(([, object]) => {
      if (!(object instanceof PDFRawStream)) return object.toString();
      const content =
        object.dict.get(name('Subtype')) === name('Image') ? object.contents : decodePDFRawStream(object).decode();
      return `${object.dict.toString()} ${new TextDecoder('latin1').decode(content)}`;
    })
    .join('\n');
}

const pageObjects = (text: string): number => text.match(/\/Type \/Page\b/g)?.length ?? 0;
const hex = (text: string): string => Buffer.from(text, 'latin1').toString('hex').toUpperCase();

/** The word, as pdf-lib writes it into a content stream. */
const written = (word: string): string => `<${hex(word)}>`;

/**
 * Six pages, each with a word of its own, a form of its own with another word, links to the page before and after it, one by
 * name, an outline with an entry a page and one below each, an attachment, and one dictionary of resources for all of them.
 */
async function handout(): Promise<Uint8Array> {
  const pdf = await PDFDocument.create();
  const { context, catalog } = pdf;
  const font = await pdf.embedFont(StandardFonts.Helvetica);
  const forms = context.obj({});
  const resources = context.register(context.obj({ Font: { F1: font.ref }, XObject: forms }));
  const pages = Array.from({ length: 6 }, () => pdf.addPage([300, 400]));
  const link = (extra: Record<string, unknown>) =>
    context.register(context.obj({ Type: 'Annot', Subtype: 'Link', Rect: [0, 0, 50, 50], ...extra } as never));
  pages.forEach((page, k) => {
    const form = context.stream(`BT /F1 12 Tf 20 20 Td <${hex(`Inset${k}`)}> Tj ET`, {
      Type: 'XObject',
      Subtype: 'Form',
      BBox: [0, 0, 200, 200],
      Resources: resources,
    });
    forms.set(name(`Form${k}`), context.register(form));
    page.node.set(name('Resources'), resources);
    page.node.set(
      name('Contents'),
      context.register(context.flateStream(`BT /F1 24 Tf 20 300 Td <${hex(`Word${k}`)}> Tj ET /Form${k} Do`)),
    );
    page.node.set(
      name('Annots'),
      context.obj([
        ...(k > 0 ? [link({ Dest: [pages[k - 1]!.ref, 'XYZ', 0, 400, null] })] : []),
        ...(k < 5 ? [link({ A: { S: 'GoTo', D: PDFString.of(`to-${k + 1}`) } })] : []),
        link({ A: { S: 'URI', URI: PDFString.of('https://elsewhere.example/') } }),
      ] as never),
    );
  });
  const names = pages.flatMap((page, k) => [PDFString.of(`to-${k}`), context.obj([page.ref, 'Fit'])]);
  catalog.set(name('Names'), context.obj({ Dests: { Names: names } } as never));
  const root = context.nextRef();
  const refs = pages.map(() => context.nextRef());
  pages.forEach((page, k) => {
    const lower = context.register(
      context.obj({ Title: PDFString.of(`Part of ${k}`), Parent: refs[k]!, Dest: [page.ref, 'FitH', 100] } as never),
    );
    context.assign(
      refs[k]!,
      context.obj({
        Title: PDFString.of(`Chapter ${k}`),
        Parent: root,
        Dest: PDFString.of(`to-${k}`),
        First: lower,
        Last: lower,
        Count: 1,
        ...(k > 0 ? { Prev: refs[k - 1]! } : {}),
        ...(k < 5 ? { Next: refs[k + 1]! } : {}),
      } as never),
    );
  });
  context.assign(root, context.obj({ Type: 'Outlines', First: refs[0]!, Last: refs[5]!, Count: 6 }));
  catalog.set(name('Outlines'), root);
  await pdf.attach(Uint8Array.of(1, 2, 3), 'secret.doc');
  return pdf.save();
}

const bindPages = async (pdf: Uint8Array, kept: readonly number[]): Promise<Uint8Array> =>
  bindPdf(
    kept.map((pdfPage) => ({ content: { pdf, pdfPage, quarterTurns: 0, pagesTaken: kept.length } })),
    { title: 'Set 4', paper: 'auto' },
  );

describe('pages of a PDF that were left out', () => {
  it('are not in the file: no page, no word, no form, no link, no outline entry, no attachment', async () => {
    const text = await everythingIn(await bindPages(await handout(), [1, 2, 4]));
    expect(pageObjects(text)).toBe(3);
    for (const k of [1, 2, 4]) for (const kept of ['Word', 'Inset']) expect(text).toContain(written(`${kept}${k}`));
    for (const k of [0, 3, 5]) for (const gone of ['Word', 'Inset']) expect(text).not.toContain(written(`${gone}${k}`));
    for (const gone of ['secret.doc', 'elsewhere.example']) expect(text).not.toContain(gone);
  });

  it('leave the links between the others whole, and none that leads to them', async () => {
    const pdf = await PDFDocument.load(await bindPages(await handout(), [1, 2, 4]));
    const pages = pdf.getPages();
    const targets = pages.map(({ node }) => {
      const links = node.lookupMaybe(name('Annots'), PDFArray)?.asArray() ?? [];
      return links.map((link) => {
        const [page] = pdf.context.lookup(link, PDFDict).lookup(name('Dest'), PDFArray).asArray();
        return pages.findIndex(({ ref }) => ref === page);
      });
    });
    expect(targets).toEqual([[1], [0], []]);
  });

  it('leave the outline entries of the others', async () => {
    const pdf = await PDFDocument.load(await bindPages(await handout(), [2, 4]));
    const titlesBelow = (parent: PDFDict): unknown[] => {
      const titles: unknown[] = [];
      for (
        let item = parent.lookupMaybe(name('First'), PDFDict);
        item !== undefined;
        item = item.lookupMaybe(name('Next'), PDFDict)
      )
        titles.push((item.lookup(name('Title')) as PDFString).decodeText(), ...titlesBelow(item));
      return titles;
    };
    expect(titlesBelow(pdf.catalog.lookup(name('Outlines'), PDFDict))).toEqual([
      'Chapter 2',
      'Part of 2',
      'Chapter 4',
      'Part of 4',
    ]);
  });

  it('make the file as small as one of the kept pages alone', async () => {
    const whole = await bindPages(await handout(), [0, 1, 2, 3, 4, 5]);
    const one = await bindPages(await handout(), [3]);
    expect(one.length).toBeLessThan(0.55 * whole.length);
  });

  it('may be taken twice, and with photos’ pages and marks between', async () => {
    const pdf = await PDFDocument.load(await bindPages(await handout(), [4, 1, 4]));
    expect(pdf.getPageCount()).toBe(3);
    expect(pageObjects(await everythingIn(await pdf.save()))).toBe(3);
  });
});

describe('what a kept page needs', () => {
  it('stays: colour spaces that stand in for the device’s own, and what a borrowing form calls in the page’s place', async () => {
    const source = await PDFDocument.create();
    const { context } = source;
    const page = source.addPage([300, 400]);
    const form = (content: string) =>
      context.register(context.stream(content, { Type: 'XObject', Subtype: 'Form', BBox: [0, 0, 9, 9] }));
    const pictured = form('/Inner Do');
    page.node.set(
      name('Resources'),
      context.obj({
        ColorSpace: { DefaultRGB: ['CalRGB', { WhitePoint: [0.95, 1, 1.09] }], Unused: ['CalGray', { Gamma: 2 }] },
        XObject: { Outer: pictured, Inner: form('0 0 5 5 re f'), Unused: form('1 1 7 7 re f') },
      }),
    );
    page.node.set(name('Contents'), context.register(context.stream('q /Out#65r Do Q')));
    const text = await everythingIn(await bindPages(await source.save(), [0]));
    for (const kept of ['/DefaultRGB', '/Inner Do', '0 0 5 5 re f']) expect(text).toContain(kept);
    for (const gone of ['1 1 7 7 re f', 'CalGray']) expect(text).not.toContain(gone);
  });
});

describe('layers of a PDF', () => {
  it('stay off where they were, and those of pages left out are not named', async () => {
    const source = await PDFDocument.create();
    const { context } = source;
    const layer = (title: string) => context.register(context.obj({ Type: 'OCG', Name: PDFString.of(title) } as never));
    const [answers, other] = [layer('Answers'), layer('Other page')];
    [answers, other].forEach((ref) => {
      const page = source.addPage([300, 400]);
      page.node.set(name('Resources'), context.obj({ Properties: { L: ref } }));
      page.node.set(name('Contents'), context.register(context.stream('/OC /L BDC 10 10 50 50 re f EMC')));
    });
    source.catalog.set(name('OCProperties'), context.obj({ OCGs: [answers, other], D: { OFF: [answers] } }));
    const bound = await PDFDocument.load(await bindPages(await source.save(), [0]));
    const properties = bound.catalog.lookup(name('OCProperties'), PDFDict);
    const all = properties.lookup(name('OCGs'), PDFArray).asArray();
    expect(
      all.map((ref) => (bound.context.lookup(ref, PDFDict).lookup(name('Name')) as PDFString).decodeText()),
    ).toEqual(['Answers']);
    expect(properties.lookup(name('D'), PDFDict).lookup(name('OFF'), PDFArray).asArray()).toEqual(all);
  });
});

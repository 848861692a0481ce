import { PDFHexString, PDFName, PDFString, type PDFDocument } from '@cantoo/pdf-lib';
import { SRGB_PROFILE } from './srgbProfile';

export interface FileFacts {
  readonly title: string;
  /** BCP 47. */
  readonly language: string;
  /** Only where the person wants it in the file. */
  readonly author?: string;
  /** All pages are ours: pages taken over from another PDF may hold what PDF/A forbids. */
  readonly archival: boolean;
  /** Hexadecimal, 32 digits: says which file this is, the same for the same content. */
  readonly fingerprint: string;
  /** Pages before this one are no pages of the work: they are labelled apart. */
  readonly firstPage: number;
}

/**
 * Writes what the file says about itself: title, language, page labels, how to open it, its colours, and XMP (ISO 16684)
 * with PDF/A-2u (ISO 19005-2) and PDF/UA-1 (ISO 14289-1) where they hold: every sign that is drawn says what it is, and all
 * that is drawn says what part of the page it is. No time and no device: nothing of the photos is told.
 */
export function describeFile(pdf: PDFDocument, facts: FileFacts): void {
  const { context, catalog } = pdf;
  pdf.setTitle(facts.title, { showInWindowTitleBar: true });
  pdf.setCreator('Fotoplan');
  pdf.setProducer('Fotoplan');
  pdf.setLanguage(facts.language);
  if (facts.author !== undefined) pdf.setAuthor(facts.author);
  const profile = context.register(
    context.flateStream(
      Uint8Array.from(atob(SRGB_PROFILE), (c) => c.charCodeAt(0)),
      { N: 3 },
    ),
  );
  catalog.set(
    PDFName.of('OutputIntents'),
    context.obj([
      {
        Type: 'OutputIntent',
        S: 'GTS_PDFA1',
        OutputConditionIdentifier: PDFString.of('sRGB'),
        Info: PDFString.of('sRGB'),
        DestOutputProfile: profile,
      },
    ]),
  );
  // readers look for XMP without undoing any compression
  catalog.set(
    PDFName.of('Metadata'),
    context.register(context.stream(new TextEncoder().encode(xmp(facts)), { Type: 'Metadata', Subtype: 'XML' })),
  );
  const cover = facts.firstPage > 0 ? [0, { P: PDFString.of('Cover') }] : [];
  catalog.set(PDFName.of('PageLabels'), context.obj({ Nums: [...cover, facts.firstPage, { S: 'D' }] }));
  catalog.set(PDFName.of('OpenAction'), context.obj([pdf.getPage(0).ref, 'Fit']));
  const id = PDFHexString.of(facts.fingerprint);
  context.trailerInfo.ID = context.obj([id, id]);
}

const escape = (text: string): string => text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;');

/** PDF/A has properties of other standards told in the file (ISO 19005-2, 6.6.2.3.2). */
const UA_SCHEMA = `<pdfaExtension:schemas><rdf:Bag><rdf:li rdf:parseType="Resource"><pdfaSchema:schema>PDF/UA identification</pdfaSchema:schema><pdfaSchema:namespaceURI>http://www.aiim.org/pdfua/ns/id/</pdfaSchema:namespaceURI><pdfaSchema:prefix>pdfuaid</pdfaSchema:prefix><pdfaSchema:property><rdf:Seq><rdf:li rdf:parseType="Resource"><pdfaProperty:name>part</pdfaProperty:name><pdfaProperty:valueType>Integer</pdfaProperty:valueType><pdfaProperty:category>internal</pdfaProperty:category><pdfaProperty:description>Part of ISO 14289</pdfaProperty:description></rdf:li></rdf:Seq></pdfaSchema:property></rdf:li></rdf:Bag></pdfaExtension:schemas>`;

function xmp({ title, language, author, archival }: FileFacts): string {
  const creator =
    author === undefined ? '' : `<dc:creator><rdf:Seq><rdf:li>${escape(author)}</rdf:li></rdf:Seq></dc:creator>`;
  const conformance = archival
    ? `<pdfaid:part>2</pdfaid:part><pdfaid:conformance>U</pdfaid:conformance><pdfuaid:part>1</pdfuaid:part>${UA_SCHEMA}`
    : '';
  return `<?xpacket begin="\ufeff" id="W5M0MpCehiHzreSzNTczkc9d"?>
<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#"><rdf:Description rdf:about="" xmlns:dc="http://purl.org/dc/elements/1.1/" xmlns:xmp="http://ns.adobe.com/xap/1.0/" xmlns:pdf="http://ns.adobe.com/pdf/1.3/" xmlns:pdfaid="http://www.aiim.org/pdfa/ns/id/" xmlns:pdfuaid="http://www.aiim.org/pdfua/ns/id/" xmlns:pdfaExtension="http://www.aiim.org/pdfa/ns/extension/" xmlns:pdfaSchema="http://www.aiim.org/pdfa/ns/schema#" xmlns:pdfaProperty="http://www.aiim.org/pdfa/ns/property#">
<dc:format>application/pdf</dc:format><dc:title><rdf:Alt><rdf:li xml:lang="x-default">${escape(title)}</rdf:li></rdf:Alt></dc:title>${creator}<dc:language><rdf:Bag><rdf:li>${escape(language)}</rdf:li></rdf:Bag></dc:language>
<xmp:CreatorTool>Fotoplan</xmp:CreatorTool><pdf:Producer>Fotoplan</pdf:Producer>${conformance}
</rdf:Description></rdf:RDF></x:xmpmeta>
<?xpacket end="r"?>`;
}

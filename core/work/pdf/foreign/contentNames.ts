import {
  decodePDFRawStream,
  PDFArray,
  PDFRawStream,
  PDFStream,
  type PDFContext,
  type PDFObject,
} from '@cantoo/pdf-lib';

/** A name in a content stream (ISO 32000-1, 7.3.5); within a string or a picture it is taken for one too, which only keeps more. */
const NAME = /\/([^\s()<>[\]{}/%]+)/g;

const unescaped = (name: string): string =>
  name.replace(/#([0-9a-fA-F]{2})/g, (_, hex: string) => String.fromCharCode(parseInt(hex, 16)));

function unpacked(stream: PDFStream): Uint8Array | null {
  try {
    return stream instanceof PDFRawStream ? decodePDFRawStream(stream).decode() : stream.getContents();
  } catch {
    return null;
  }
}

/** The streams of a page's contents, or of one that stands alone. */
export function streamsOf(contents: PDFObject | undefined, context: PDFContext): PDFStream[] {
  const found = context.lookup(contents);
  if (found instanceof PDFStream) return [found];
  return found instanceof PDFArray ? found.asArray().flatMap((each) => streamsOf(each, context)) : [];
}

/** Which resources content streams may use, by name; null where one of them cannot be unpacked. */
export function namesIn(streams: readonly PDFStream[]): ReadonlySet<string> | null {
  const names = new Set<string>();
  for (const stream of streams) {
    const bytes = unpacked(stream);
    if (bytes === null) return null;
    for (const [, name] of new TextDecoder('latin1').decode(bytes).matchAll(NAME)) names.add(unescaped(name!));
  }
  return names;
}

import type { CodedPage, JpegCodec } from '../../../core/imaging/layers/codedPage';
import { renderCoded } from '../../../core/work/render/renderCoded';
import { bindPdf } from '../../../core/work/pdf/bindPdf';
import type { BoundPage } from '../../../core/work/pdf/boundPage';
import { lendDecoded } from '../../../platform/browser/decodeBlob';
import { encodeJpeg } from '../../../platform/browser/encodePicture';
import { readBitmap } from '../../../platform/browser/readBitmap';
import { hashOf } from '../../../platform/hashOf';
import type { AssembleRequest, AssembleResult, CodeRequest } from '../jobProtocol';

/** About how much of coding a page is done once its photo is decoded. */
const DECODED_SHARE = 0.12;

const JPEG_CODEC: JpegCodec = {
  encode: async (page, quality) => new Uint8Array(await (await encodeJpeg(page, quality)).arrayBuffer()),
  decode: async (jpeg) => readBitmap(await createImageBitmap(new Blob([jpeg as BlobPart], { type: 'image/jpeg' })), 1),
};

export function code(
  { original: { blob, fileName, pdfPage }, recipe, coding, paper }: CodeRequest,
  tell: (share: number) => void,
): Promise<CodedPage> {
  return renderCoded((use) => lendDecoded(blob, fileName, pdfPage, use, () => tell(DECODED_SHARE)), recipe, {
    coding,
    paper,
    jpeg: JPEG_CODEC,
    onProgress: tell,
  });
}

/** For the cover sheet and notes; fetched only when there is one. */
const FONT_URL = '/workers/AtkinsonHyperlegibleNext.ttf';

export async function assemble({ options, pages }: AssembleRequest): Promise<AssembleResult> {
  const needsFont = options.cover !== undefined || pages.some(({ marks }) => marks.some(({ kind }) => kind === 'note'));
  const font = needsFont ? new Uint8Array(await (await fetch(FONT_URL)).arrayBuffer()) : undefined;
  const pdfs = new Map<Blob, Uint8Array>();
  const bound = async function* (): AsyncGenerator<BoundPage> {
    for (const { content, kind, words, marks } of pages) {
      if (!('blob' in content)) {
        yield { content, kind, words, marks };
        continue;
      }
      const { blob, ...page } = content;
      const pdf = pdfs.get(blob) ?? new Uint8Array(await blob.arrayBuffer());
      pdfs.set(blob, pdf);
      yield { content: { ...page, pdf }, kind, words, marks };
    }
  };
  const bytes = (await bindPdf(bound(), {
    ...options,
    ...(font === undefined ? {} : { font }),
  })) as Uint8Array<ArrayBuffer>;
  return { pdf: new Blob([bytes], { type: 'application/pdf' }), sha256: await hashOf(bytes) };
}

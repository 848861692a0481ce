import { checkPhotoFile, uprightSize, type OriginalType } from '../../../core/work/photo/checkPhotoFile';
import { measurePdf } from '../../../core/work/pdf/openPdf';
import { decodeBlob } from '../../../platform/browser/decodeBlob';
import type { CheckRequest, CheckResult } from '../jobProtocol';
import { hashOf } from '../../../platform/hashOf';
import { readTimeTaken } from '../../../platform/readTimeTaken';

/** What the header says of these is not what is seen: only decoding tells. */
const SEEN_OTHERWISE: readonly OriginalType[] = ['image/heic', 'image/avif', 'image/jxl', 'image/tiff'];

/** Is a file one that can be a page, and which? Looks at its head only, where that says enough. */
export async function check({ blob, fileName }: CheckRequest): Promise<CheckResult> {
  const bytes = new Uint8Array(await blob.arrayBuffer());
  const facts = checkPhotoFile(bytes, fileName);
  const originalId = await hashOf(bytes);
  if (facts.type === 'application/pdf')
    return { originalId, isPdf: true, ...(await measurePdf(bytes, fileName)), takenAtMs: null };
  const takenAtMs = await readTimeTaken(bytes);
  if (!SEEN_OTHERWISE.includes(facts.type))
    return { originalId, isPdf: false, pages: [uprightSize(facts)], takenAtMs, forbids: [] };
  const { width, height } = await decodeBlob(blob, fileName, null);
  return { originalId, isPdf: false, pages: [{ width, height }], takenAtMs, forbids: [] };
}

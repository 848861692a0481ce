import { fillFromSecond } from '../../../core/work/intake/fillFromSecond';
import { inspectStart } from '../../../core/work/intake/inspectStart';
import { decodeBlob } from '../../../platform/browser/decodeBlob';
import { encodeJpeg } from '../../../platform/browser/encodePicture';
import { readFocalRatio } from '../../../platform/readFocalRatio';
import type { FillGlareRequest, FillGlareResult } from '../jobProtocol';

/** All but what is filled is the original's own: it should not be coded worse than that was. */
const QUALITY = 0.95;

/** Fills the reflections on a page, and looks at it once more. */
export async function fillGlare({ original, recipe, second }: FillGlareRequest): Promise<FillGlareResult> {
  const first = await decodeBlob(original.blob, original.fileName, original.pdfPage);
  const focalRatio = await readFocalRatio(new Uint8Array(await second.blob.arrayBuffer()));
  const other = await decodeBlob(second.blob, second.fileName, null);
  const { photo } = fillFromSecond({ photo: first, recipe }, other, focalRatio);
  return { photo: await encodeJpeg(photo, QUALITY), verdict: inspectStart(photo, recipe) };
}

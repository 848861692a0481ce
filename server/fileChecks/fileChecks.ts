import type { OriginalFacts } from '../../core/work/photo/checkPhotoFile';
import { checkPhotoFile } from '../../core/work/photo/checkPhotoFile';
import { openPdf } from '../../core/work/pdf/openPdf';
import { refuseHeavyPdf } from './refuseHeavyPdf';

/** Looks into files that anybody may have made: where there is a pool of threads, apart from the event loop and not for long. */
export interface FileChecks {
  /** @throws FotoplanError PHOTO_… as checkPhotoFile does */
  photo(bytes: Uint8Array, name: string): Promise<OriginalFacts>;
  /** How many pages a PDF has. @throws FotoplanError PDF_UNREADABLE */
  pdfPages(bytes: Uint8Array): Promise<number>;
}

/** Does it here and now. */
export const inlineFileChecks: FileChecks = {
  // eslint-disable-next-line @typescript-eslint/require-await -- what it throws must reject
  photo: async (bytes, name) => checkPhotoFile(bytes, name),
  async pdfPages(bytes) {
    refuseHeavyPdf(bytes);
    return (await openPdf(bytes)).getPageCount();
  },
};

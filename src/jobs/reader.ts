import type { Worker } from 'tesseract.js';
import type { ReadLine } from '../../core/order/numberInText';
import type { PageWord } from '../../core/pdf/boundPage';
import { wordsOf } from '../../core/reading/wordsOf';

/** Where the server keeps the engine and its English data; nothing comes from elsewhere. */
const FROM = '/reading';

export interface Reader {
  /** The lines of a picture. @throws where the engine cannot be loaded: there is no connection */
  lines(picture: Blob): Promise<readonly ReadLine[]>;
  /** The words of a page, in shares of its size. */
  words(picture: Blob, width: number, height: number): Promise<readonly PageWord[]>;
}

/** Looks for words wherever they stand: laid out as columns of text, a table would be taken for a drawing. */
const WORDS_ANYWHERE = { tessedit_pageseg_mode: '11' } as object;

/** The OCR engine, loaded the first time something is to be read. */
export function createReader(): Reader {
  let starting: Promise<Worker> | null = null;
  const engine = (): Promise<Worker> => {
    starting ??= import('tesseract.js').then(({ createWorker }) =>
      createWorker('eng', 1, {
        workerPath: `${FROM}/worker.min.js`,
        corePath: FROM,
        langPath: FROM,
        workerBlobURL: false,
        gzip: true,
        cacheMethod: 'none',
      }),
    );
    // a start that failed (no connection) is tried again the next time
    starting.catch(() => (starting = null));
    return starting;
  };
  return {
    async lines(picture) {
      const { data } = await (await engine()).recognize(picture, {}, { blocks: true });
      return (data.blocks ?? []).flatMap((block) =>
        block.paragraphs.flatMap((paragraph) => paragraph.lines.map(({ text, confidence }) => ({ text, confidence }))),
      );
    },
    async words(picture, width, height) {
      const { data } = await (await engine()).recognize(picture, WORDS_ANYWHERE, { blocks: true });
      return wordsOf(data.blocks, width, height);
    },
  };
}

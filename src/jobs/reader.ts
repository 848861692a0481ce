import type { Worker } from 'tesseract.js';
import type { ReadLine } from '../../core/work/order/numberInText';
import type { PageWord } from '../../core/work/pdf/boundPage';
import { READ_LANGUAGES, type ReadLanguage } from '../../core/work/words/readLanguages';
import { wordsOf } from '../../core/work/pdf/wordsOf';

/** Where the server keeps the engine and its languages; nothing comes from elsewhere. */
const FROM = '/reading';

export interface Reader {
  /** The lines of a picture. @throws where the engine cannot be loaded: there is no connection */
  lines(picture: Blob): Promise<readonly ReadLine[]>;
  /** The words of a page, in shares of its size. */
  words(picture: Blob, width: number, height: number, language: ReadLanguage): Promise<readonly PageWord[]>;
}

/** Looks for words wherever they stand: laid out as columns of text, a table would be taken for a drawing. Their order is found afterwards (readingOrder.ts). */
const WORDS_ANYWHERE = { tessedit_pageseg_mode: '11' } as object;

/** The OCR engine, loaded the first time something is to be read, with one language at a time. */
export function createReader(): Reader {
  let starting: Promise<Worker> | null = null;
  let loaded: ReadLanguage = 'en';
  /** One after another: while a language is being changed nothing can be read. */
  let turn: Promise<unknown> = Promise.resolve();
  const start = (language: ReadLanguage): Promise<Worker> =>
    import('tesseract.js').then(({ createWorker }) =>
      createWorker(READ_LANGUAGES[language], 1, {
        workerPath: `${FROM}/worker.min.js`,
        corePath: FROM,
        langPath: FROM,
        workerBlobURL: false,
        gzip: true,
        cacheMethod: 'none',
      }),
    );
  async function engine(language: ReadLanguage): Promise<Worker> {
    try {
      if (starting === null) {
        loaded = language;
        starting = start(language);
      }
      const worker = await starting;
      if (loaded !== language) {
        await worker.reinitialize(READ_LANGUAGES[language]);
        loaded = language;
      }
      return worker;
    } catch (error) {
      // a start that failed (no connection) is tried again the next time
      starting = null;
      throw error;
    }
  }
  function inTurn<T>(read: () => Promise<T>): Promise<T> {
    const mine = turn.then(read);
    turn = mine.catch(() => undefined);
    return mine;
  }
  return {
    lines: (picture) =>
      inTurn(async () => {
        const { data } = await (await engine(loaded)).recognize(picture, {}, { blocks: true });
        return (data.blocks ?? []).flatMap((block) =>
          block.paragraphs.flatMap((paragraph) =>
            paragraph.lines.map(({ text, confidence }) => ({ text, confidence })),
          ),
        );
      }),
    words: (picture, width, height, language) =>
      inTurn(async () => {
        const { data } = await (await engine(language)).recognize(picture, WORDS_ANYWHERE, { blocks: true });
        return wordsOf(data.blocks, width, height);
      }),
  };
}

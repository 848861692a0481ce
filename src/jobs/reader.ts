import type { Worker } from 'tesseract.js';
import type { ReadLine } from '../../core/work/order/numberInText';
import type { PageWord } from '../../core/work/words/pageWord';
import { READ_LANGUAGES, type ReadLanguage } from '../../core/work/words/readLanguages';
import type { PageToRead } from '../../core/work/words/pageToRead';
import { wordsOf, type ReadBox } from '../../core/work/words/wordsOf';

/** Where the server keeps the engine and its languages; nothing comes from elsewhere. */
const FROM = '/reading';

export interface Reader {
  /** The lines of a picture. @throws where the engine cannot be loaded: there is no connection */
  lines(picture: Blob): Promise<readonly ReadLine[]>;
  /** The words of a page, in shares of its size. */
  words(page: PageToRead<Blob>, language: ReadLanguage): Promise<readonly PageWord[]>;
}

/** Looks for words wherever they stand: laid out as columns of text, a table would be taken for a drawing. Their order is found afterwards (readingOrder.ts). */
const WORDS_ANYWHERE = { tessedit_pageseg_mode: '11' } as object;
/** What stands in a box is one text. */
const ONE_TEXT = { tessedit_pageseg_mode: '6' } as object;

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
    words: ({ page, width, height, boxes }, language) =>
      inTurn(async () => {
        const worker = await engine(language);
        const blocksOf = async (picture: Blob, how: object) =>
          (await worker.recognize(picture, how, { blocks: true })).data.blocks;
        const blocks = await blocksOf(page, WORDS_ANYWHERE);
        const inBoxes: ReadBox[] = [];
        for (const { picture, at } of boxes) inBoxes.push({ blocks: await blocksOf(picture, ONE_TEXT), at });
        return wordsOf(blocks, inBoxes, width, height);
      }),
  };
}

import { createRequire } from 'node:module';
import path from 'node:path';
import { createScheduler, createWorker, type RecognizeResult } from 'tesseract.js';
import { READ_LANGUAGES, type ReadLanguage } from '../../core/work/words/readLanguages';
import type { PageToRead } from '../../core/work/words/pageToRead';
import { wordsOf } from '../../core/work/words/wordsOf';
import type { PageWord } from '../../core/work/words/pageWord';

const require = createRequire(import.meta.url);
const dataOf = (language: ReadLanguage): string =>
  path.join(
    path.dirname(require.resolve(`@tesseract.js-data/${READ_LANGUAGES[language]}/package.json`)),
    '4.0.0_best_int',
  );

/** As the app does: words wherever they stand, in tables too. */
const WORDS_ANYWHERE = { tessedit_pageseg_mode: '11' } as object;
/** What stands in a box is one text. */
const ONE_TEXT = { tessedit_pageseg_mode: '6' } as object;

export interface Reader {
  /** The words on a page, in shares of its size. */
  words(page: PageToRead<Uint8Array>): Promise<readonly PageWord[]>;
  text(picture: Uint8Array): Promise<string>;
  close(): Promise<void>;
}

export interface ReaderOptions {
  readonly language?: ReadLanguage;
  /** How many pages are read at a time. */
  readonly threads?: number;
  /** The bundled readerWorker; the engine's own, which talks, where it is left out. */
  readonly workerFile?: string;
}

/** OCR engines with the data of one language, all from packages. */
export async function openReader({ language = 'en', threads = 1, workerFile }: ReaderOptions = {}): Promise<Reader> {
  const scheduler = createScheduler();
  await Promise.all(
    Array.from({ length: threads }, async () => {
      const worker = await createWorker(READ_LANGUAGES[language], 1, {
        langPath: dataOf(language),
        gzip: true,
        cacheMethod: 'none',
        ...(workerFile === undefined ? {} : { workerPath: workerFile }),
      });
      // the engine's own remarks are for its makers
      await worker.setParameters({ debug_file: '/dev/null' });
      scheduler.addWorker(worker);
    }),
  );
  const read = async (...args: Parameters<Tesseract.Worker['recognize']>): Promise<RecognizeResult> =>
    await scheduler.addJob('recognize', ...args);
  return {
    words: async ({ page, width, height, boxes }) => {
      const blocksOf = async (picture: Uint8Array, how: object) =>
        (await read(Buffer.from(picture), how, { blocks: true })).data.blocks;
      const [blocks, ...inBoxes] = await Promise.all([
        blocksOf(page, WORDS_ANYWHERE),
        ...boxes.map(({ picture }) => blocksOf(picture, ONE_TEXT)),
      ]);
      return wordsOf(
        blocks,
        boxes.map(({ at }, k) => ({ blocks: inBoxes[k] ?? null, at })),
        width,
        height,
      );
    },
    text: async (picture) => (await read(Buffer.from(picture))).data.text,
    close: async () => {
      await scheduler.terminate();
    },
  };
}

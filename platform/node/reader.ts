import { createRequire } from 'node:module';
import path from 'node:path';
import { imageSize } from 'image-size';
import { createWorker } from 'tesseract.js';
import { READ_LANGUAGES, type ReadLanguage } from '../../core/work/words/readLanguages';
import { wordsOf } from '../../core/work/pdf/wordsOf';
import type { PageWord } from '../../core/work/pdf/boundPage';

const require = createRequire(import.meta.url);
const dataOf = (language: ReadLanguage): string =>
  path.join(
    path.dirname(require.resolve(`@tesseract.js-data/${READ_LANGUAGES[language]}/package.json`)),
    '4.0.0_best_int',
  );

/** As the app does: words wherever they stand, in tables too. */
const WORDS_ANYWHERE = { tessedit_pageseg_mode: '11' } as object;

export interface Reader {
  /** The words on a page, in shares of its size. */
  words(picture: Uint8Array): Promise<readonly PageWord[]>;
  text(picture: Uint8Array): Promise<string>;
  close(): Promise<void>;
}

/** An OCR engine with the data of one language, all from packages. */
export async function openReader(language: ReadLanguage = 'en'): Promise<Reader> {
  const worker = await createWorker(READ_LANGUAGES[language], 1, {
    langPath: dataOf(language),
    gzip: true,
    cacheMethod: 'none',
  });
  // the engine's own remarks are for its makers
  await worker.setParameters({ debug_file: '/dev/null' });
  return {
    words: async (picture) => {
      const { width, height } = imageSize(picture);
      const { data } = await worker.recognize(Buffer.from(picture), WORDS_ANYWHERE, { blocks: true });
      return wordsOf(data.blocks, width, height);
    },
    text: async (picture) => (await worker.recognize(Buffer.from(picture))).data.text,
    close: async () => {
      await worker.terminate();
    },
  };
}

import { createRequire } from 'node:module';
import path from 'node:path';
import sharp from 'sharp';
import { createWorker } from 'tesseract.js';
import type { PixelImage } from '../core/raster/pixelImage';

const DATA = path.join(path.dirname(createRequire(import.meta.url).resolve('@tesseract.js-data/eng')), '4.0.0_best_int');

export interface Reader {
  /** Share of the text's characters that were read wrongly, left out or put in. */
  errors(page: PixelImage, text: string): Promise<number>;
  close(): Promise<void>;
}

/** An OCR engine with English data, all from packages. */
export async function openReader(): Promise<Reader> {
  const worker = await createWorker('eng', 1, { langPath: DATA, gzip: true, cacheMethod: 'none' });
  return {
    errors: async ({ width, height, channels, data }, text) => {
      const png = await sharp(data, { raw: { width, height, channels } }).png().toBuffer();
      const read = await worker.recognize(png);
      return editDistance(plain(read.data.text), plain(text)) / Math.max(1, plain(text).length);
    },
    close: async () => {
      await worker.terminate();
    },
  };
}

const plain = (text: string): string => text.replace(/[‘’]/g, "'").replace(/[“”]/g, '"').replace(/[–—]/g, '-').replace(/\s+/g, ' ').trim();

/** Levenshtein distance. */
function editDistance(a: string, b: string): number {
  let row = Array.from({ length: b.length + 1 }, (_, j) => j);
  for (let i = 1; i <= a.length; i++) {
    const next = [i];
    for (let j = 1; j <= b.length; j++) next[j] = Math.min(row[j]! + 1, next[j - 1]! + 1, row[j - 1]! + (a[i - 1] === b[j - 1] ? 0 : 1));
    row = next;
  }
  return row[b.length]!;
}

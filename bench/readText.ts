import sharp from 'sharp';
import type { PixelImage } from '../core/imaging/raster/pixelImage';
import { openReader } from '../platform/node/reader';

export interface TextJudge {
  /** Share of the text's characters that were read wrongly, left out or put in. */
  errors(page: PixelImage, text: string): Promise<number>;
  close(): Promise<void>;
}

export async function openTextJudge(): Promise<TextJudge> {
  const reader = await openReader();
  return {
    errors: async ({ width, height, channels, data }, text) => {
      const read = plain(await reader.text(await sharp(data, { raw: { width, height, channels } }).png().toBuffer()));
      return editDistance(read, plain(text)) / Math.max(1, plain(text).length);
    },
    close: () => reader.close(),
  };
}

const plain = (text: string): string =>
  text.replace(/[‘’]/g, "'").replace(/[“”]/g, '"').replace(/[–—]/g, '-').replace(/\s+/g, ' ').trim();

/** Levenshtein distance. */
function editDistance(a: string, b: string): number {
  let row = Array.from({ length: b.length + 1 }, (_, j) => j);
  for (let i = 1; i <= a.length; i++) {
    const next = [i];
    for (let j = 1; j <= b.length; j++)
      next[j] = Math.min(row[j]! + 1, next[j - 1]! + 1, row[j - 1]! + (a[i - 1] === b[j - 1] ? 0 : 1));
    row = next;
  }
  return row[b.length]!;
}

import { execFileSync } from 'node:child_process';
import path from 'node:path';
import { createRandom } from '../../../demo/random';
import { createPixelImage, type PixelImage } from '../raster/pixelImage';
import { encodeJbig2 } from './jbig2';

function bitmap(width: number, height: number, ink: (x: number, y: number) => boolean): PixelImage {
  const page = createPixelImage(width, height, 1);
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) page.data[y * width + x] = ink(x, y) ? 0 : 255;
  return page;
}

/** Bits packed into bytes, rows from whole bytes on, 1 for ink: what a decoder gives back. */
function packed({ width, height, data }: PixelImage): Buffer {
  const stride = (width + 7) >> 3;
  const out = Buffer.alloc(stride * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) if (data[y * width + x]! < 128) out[y * stride + (x >> 3)]! |= 128 >> (x & 7);
  return out;
}

const DECODER = `
import { readFileSync } from 'node:fs';
import { Jbig2Image } from ${JSON.stringify(path.resolve('node_modules/pdfjs-dist/legacy/image_decoders/pdf.image_decoders.mjs'))};
const list = JSON.parse(readFileSync(0, 'utf8'));
process.stdout.write(JSON.stringify(list.map((text) => {
  const data = new Uint8Array(Buffer.from(text, 'base64'));
  return Buffer.from(new Jbig2Image().parseChunks([{ data, start: 0, end: data.length }])).toString('base64');
})));`;

/** Decodes with pdf.js, whose decoder is not ours, in a process of its own. */
const decodeAll = (files: readonly Uint8Array[]): Buffer[] =>
  (
    JSON.parse(
      execFileSync(process.execPath, ['--input-type=module', '-e', DECODER], {
        input: JSON.stringify(files.map((f) => Buffer.from(f).toString('base64'))),
        maxBuffer: 1e9,
      }).toString(),
    ) as string[]
  ).map((text) => Buffer.from(text, 'base64'));

describe('JBIG2', () => {
  const random = createRandom(3);
  const noise = (share: number) => (): boolean => random.next() < share;
  const text = (x: number, y: number): boolean => y % 23 < 9 && (x * 7 + (y % 23) * 3) % 29 < 6;
  const pages: Readonly<Record<string, PixelImage>> = {
    white: bitmap(64, 40, () => false),
    black: bitmap(67, 33, () => true),
    'one pixel': bitmap(1, 1, () => true),
    'one column': bitmap(1, 50, (_, y) => y % 3 === 0),
    'one row': bitmap(301, 1, (x) => x % 5 < 2),
    'a corner pixel': bitmap(130, 70, (x, y) => x === 129 && y === 69),
    text: bitmap(613, 401, text),
    'like rows': bitmap(200, 90, (x, y) => y > 20 && y < 60 && x > 30 && x < 170),
    'fine noise': bitmap(257, 120, noise(0.5)),
    'sparse noise': bitmap(640, 200, noise(0.01)),
    'long black and white runs': bitmap(999, 64, (x, y) => ((x >> 5) + (y >> 4)) % 2 === 0),
  };

  it('comes back bit for bit from another decoder, whatever the page', () => {
    const names = Object.keys(pages);
    const decoded = decodeAll(names.map((name) => encodeJbig2(pages[name]!)));
    names.forEach((name, i) => expect([name, decoded[i]!.equals(packed(pages[name]!))]).toEqual([name, true]));
  });

  it('is far smaller than the bits themselves where there is something to learn', () => {
    expect(encodeJbig2(pages.text!).length).toBeLessThan(packed(pages.text!).length / 6);
    expect(encodeJbig2(pages.white!).length).toBeLessThan(100);
    // noise cannot be made smaller, and hardly grows
    expect(encodeJbig2(pages['fine noise']!).length).toBeLessThan(packed(pages['fine noise']!).length * 1.1);
  });
});

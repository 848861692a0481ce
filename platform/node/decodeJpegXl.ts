import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import decode, { init } from '@jsquash/jxl/decode.js';
import sharp, { type Sharp } from 'sharp';

/** libjxl turns the picture upright and converts it to sRGB itself. */
export async function decodeJpegXl(bytes: Uint8Array): Promise<Sharp> {
  const wasm = createRequire(import.meta.url).resolve('@jsquash/jxl/codec/dec/jxl_dec.wasm');
  await init(await WebAssembly.compile(await readFile(wasm)));
  const { width, height, data } = await decode(Uint8Array.from(bytes).buffer);
  return sharp(data, { raw: { width, height, channels: 4 } });
}

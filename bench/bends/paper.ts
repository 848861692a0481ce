import sharp from 'sharp';
import type { Chance } from './chance';

export const PX_PER_MM = 6;

/** What is on a sheet. */
export const PAPERS = ['ruled', 'squared', 'print', 'table', 'sketch'] as const;
export type PaperKind = (typeof PAPERS)[number];

/** A sheet as it is flat: red, green and blue at PX_PER_MM, and the places (mm) where there is ink. */
export interface Paper {
  readonly widthMm: number;
  readonly heightMm: number;
  readonly width: number;
  readonly height: number;
  readonly data: Uint8Array;
  readonly inkMm: readonly (readonly [number, number])[];
}

const WORDS =
  'tide pool kelp barnacle survey transect sample shore gauge mean limpet density record weather north bay rock count species'.split(
    ' ',
  );
const FACES = ['DejaVu Serif', 'Nimbus Sans', 'P052', 'C059', 'URW Bookman'] as const;

const line = (x1: number, y1: number, x2: number, y2: number, colour: string, width: number): string =>
  `<line x1="${x1}" y1="${y1}" x2="${x2}" y2="${y2}" stroke="${colour}" stroke-width="${width}"/>`;

/** A word by hand: a row of loops of chance sizes. */
function scribble(x: number, y: number, size: number, letters: number, chance: Chance): string {
  let path = `M ${x} ${y}`;
  for (let k = 0; k < letters; k++) {
    const [rise, step] = [size * chance.from(0.5, 1.3), size * chance.from(0.35, 0.6)];
    path += ` q ${step * 0.2} ${-rise} ${step * 0.5} ${-rise * chance.from(0.2, 0.9)} t ${step * 0.5} ${rise * chance.from(0.2, 0.9)}`;
    path += ` L ${x + (k + 1) * size * 0.5} ${y + chance.from(-0.1, 0.1) * size}`;
  }
  return `<path d="${path}" fill="none" stroke="#1c2a66" stroke-width="0.45"/>`;
}

function drawn(kind: PaperKind, w: number, h: number, chance: Chance): string {
  const parts: string[] = [];
  const hand = (pitch: number, from: number): void => {
    for (let y = from; y < h - 15; y += pitch) {
      let x = 22 + chance.from(0, 6);
      while (x < w - 30 && chance.from(0, 1) < 0.93) {
        const letters = Math.floor(chance.from(3, 9));
        parts.push(scribble(x, y - 1.2, pitch * 0.42, letters, chance));
        x += letters * pitch * 0.21 + pitch * 0.5;
      }
    }
  };
  if (kind === 'ruled') {
    const pitch = chance.one([7, 8, 9]);
    for (let y = 24; y < h - 8; y += pitch) parts.push(line(0, y, w, y, '#9db4d8', 0.22));
    if (chance.from(0, 1) < 0.6) parts.push(line(18, 0, 18, h, '#d89aa4', 0.22));
    hand(pitch, 24);
  } else if (kind === 'squared') {
    for (let y = 3; y < h; y += 5) parts.push(line(0, y, w, y, '#a9c3c9', 0.18));
    for (let x = 3; x < w; x += 5) parts.push(line(x, 0, x, h, '#a9c3c9', 0.18));
    hand(15, 28);
  } else if (kind === 'table') {
    const columns = [20, 55, 90, 125, 160, w - 20];
    for (let y = 30; y < h - 20; y += 11) {
      parts.push(line(20, y, w - 20, y, '#333', 0.3));
      if (y + 11 < h - 20)
        for (const x of columns.slice(0, -1))
          parts.push(
            `<text x="${x + 2}" y="${y + 7}" font-size="4" font-family="Nimbus Sans">${chance.one(WORDS)} ${Math.floor(chance.from(1, 99))}</text>`,
          );
    }
    for (const x of columns) parts.push(line(x, 30, x, 30 + 11 * Math.floor((h - 51) / 11), '#333', 0.3));
  } else if (kind === 'print') {
    const [face, size] = [chance.one(FACES), chance.from(3.4, 4.4)];
    const columns = chance.one([1, 1, 2]);
    const breadth = (w - 44 - 8 * (columns - 1)) / columns;
    for (let c = 0; c < columns; c++)
      for (let y = 28; y < h - 22; y += size * 1.45) {
        if (chance.from(0, 1) < 0.06) continue;
        let text = '';
        while (text.length * size * 0.5 < breadth - 6) text += `${chance.one(WORDS)} `;
        parts.push(
          `<text x="${22 + c * (breadth + 8)}" y="${y}" font-size="${size}" font-family="${face}">${text}</text>`,
        );
      }
  } else
    for (let k = 0; k < 14; k++) {
      const [x, y, r] = [chance.from(40, w - 40), chance.from(45, h - 45), chance.from(8, 30)];
      parts.push(
        `<path d="M ${x - r} ${y} q ${r * chance.from(0, 1)} ${-2 * r} ${r} ${-r * 0.3} t ${r} ${r * chance.from(-1, 1)}" fill="none" stroke="#333" stroke-width="0.5"/>`,
      );
    }
  return parts.join('');
}

/** Widths and heights of sheets, mm: A4 and Letter. */
const SHEETS = [
  [210, 297],
  [210, 297],
  [215.9, 279.4],
] as const;

/** A sheet of a kind, by chance; A4 or Letter where no sizes (mm) are given. */
export async function paperOf(
  kind: PaperKind,
  chance: Chance,
  sizes: readonly (readonly [number, number])[] = SHEETS,
): Promise<Paper> {
  const [w, h] = chance.one(sizes);
  const tint = chance.one(['#fbfaf6', '#f4f6f8', '#fdf8ec']);
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${w * PX_PER_MM}" height="${h * PX_PER_MM}" viewBox="0 0 ${w} ${h}"><rect width="${w}" height="${h}" fill="${tint}"/>${drawn(kind, w, h, chance)}</svg>`;
  const { data, info } = await sharp(Buffer.from(svg)).removeAlpha().raw().toBuffer({ resolveWithObject: true });
  const inkMm: [number, number][] = [];
  for (let i = 0; i < info.width * info.height; i += 37)
    if (data[3 * i + 1]! < 150)
      inkMm.push([((i % info.width) + 0.5) / PX_PER_MM, (Math.floor(i / info.width) + 0.5) / PX_PER_MM]);
  return { widthMm: w, heightMm: h, width: info.width, height: info.height, data, inkMm };
}

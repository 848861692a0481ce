import { createRequire } from 'node:module';
import path from 'node:path';
import { createCanvas, GlobalFonts, type SKRSContext2D } from '@napi-rs/canvas';
import type { Random } from '../random';

const MM_PER_INCH = 25.4;
export const ARTIST_DPI = 300;
export const PX_PER_MM = ARTIST_DPI / MM_PER_INCH;

const locate = createRequire(path.join(process.cwd(), 'package.json'));
const fontFile = (pack: string, file: string): string =>
  path.join(path.dirname(locate.resolve(`@expo-google-fonts/${pack}/package.json`)), file);

let fontsReady = false;
function registerFonts(): void {
  if (fontsReady) return;
  GlobalFonts.registerFromPath(fontFile('caveat', '500Medium/Caveat_500Medium.ttf'), 'Caveat');
  GlobalFonts.registerFromPath(fontFile('kalam', '300Light/Kalam_300Light.ttf'), 'Kalam');
  GlobalFonts.registerFromPath(fontFile('patrick-hand', '400Regular/PatrickHand_400Regular.ttf'), 'Patrick Hand');
  GlobalFonts.registerFromPath(fontFile('source-serif-4', '400Regular/SourceSerif4_400Regular.ttf'), 'Source Serif 4');
  GlobalFonts.registerFromPath(fontFile('source-serif-4', '700Bold/SourceSerif4_700Bold.ttf'), 'Source Serif 4 Bold');
  fontsReady = true;
}

export const HANDS = ['Caveat', 'Kalam', 'Patrick Hand'] as const;

export const INKS = { blue: '#1f3f9e', black: '#1b1b22', red: '#b3202c', green: '#1f6b3a', print: '#17171a' } as const;
export type Ink = keyof typeof INKS;

/** Where a line of text stands on the sheet, in mm. */
export interface WrittenLine {
  readonly text: string;
  readonly hand: 'print' | 'writing';
  readonly xMm: number;
  readonly yMm: number;
  readonly widthMm: number;
  readonly heightMm: number;
}

/** One layer of a page, there once something is drawn on it: reading an empty one would take as long as drawing a page. */
interface Layer {
  readonly context: SKRSContext2D;
  /** RGBA of some whole rows; without colour and cover where nothing was drawn. */
  rows(y: number, count: number): Uint8ClampedArray;
}

/** A page being drawn: the paper below, ink and pencil on layers of their own so that the ink mask is known exactly. */
export interface Sheet {
  readonly widthMm: number;
  readonly heightMm: number;
  readonly widthPx: number;
  readonly heightPx: number;
  readonly random: Random;
  readonly layers: Readonly<Record<'paper' | 'ink' | 'pencil', Layer>>;
  /** Contexts measure in mm. */
  readonly paper: SKRSContext2D;
  readonly ink: SKRSContext2D;
  readonly pencil: SKRSContext2D;
  readonly lines: WrittenLine[];
}

export function createSheet(widthMm: number, heightMm: number, random: Random): Sheet {
  registerFonts();
  const widthPx = Math.round(widthMm * PX_PER_MM);
  const heightPx = Math.round(heightMm * PX_PER_MM);
  const [paper, ink, pencil] = [0, 1, 2].map(() => createLayer(widthPx, heightPx)) as [Layer, Layer, Layer];
  return {
    widthMm,
    heightMm,
    widthPx,
    heightPx,
    random,
    layers: { paper, ink, pencil },
    get paper() {
      return paper.context;
    },
    get ink() {
      return ink.context;
    },
    get pencil() {
      return pencil.context;
    },
    lines: [],
  };
}

function createLayer(widthPx: number, heightPx: number): Layer {
  let context: SKRSContext2D | null = null;
  let empty = new Uint8ClampedArray();
  return {
    get context() {
      if (context !== null) return context;
      context = createCanvas(widthPx, heightPx).getContext('2d');
      context.scale(PX_PER_MM, PX_PER_MM);
      context.lineCap = 'round';
      context.lineJoin = 'round';
      return context;
    },
    rows: (y, count) => {
      if (context !== null) return context.getImageData(0, y, widthPx, count).data;
      const bytes = widthPx * count * 4;
      if (empty.length < bytes) empty = new Uint8ClampedArray(bytes);
      return empty.subarray(0, bytes);
    },
  };
}

/** Writes one line by hand, word by word, each a little off; the baseline starts at (xMm, yMm). */
export function writeByHand(
  sheet: Sheet,
  ctx: SKRSContext2D,
  text: string,
  xMm: number,
  yMm: number,
  options: { sizeMm: number; font: string; colour: string },
): void {
  const { random } = sheet;
  ctx.fillStyle = options.colour;
  let x = xMm;
  const drift = random.between(-0.006, 0.01);
  for (const word of text.split(' ')) {
    const size = options.sizeMm * random.between(0.95, 1.05);
    ctx.font = `${size}px "${options.font}"`;
    ctx.save();
    ctx.translate(x, yMm + (x - xMm) * drift + random.between(-0.2, 0.2));
    ctx.rotate(random.between(-0.015, 0.015));
    ctx.fillText(word, 0, 0);
    ctx.restore();
    x += ctx.measureText(word).width + size * random.between(0.22, 0.36);
  }
  sheet.lines.push({
    text,
    hand: 'writing',
    xMm,
    yMm: yMm - options.sizeMm * 0.75,
    widthMm: x - xMm,
    heightMm: options.sizeMm,
  });
}

/** Sets one line of type; the baseline starts at (xMm, yMm). */
export function setType(
  sheet: Sheet,
  text: string,
  xMm: number,
  yMm: number,
  options: { sizeMm: number; bold?: boolean; colour?: string },
): void {
  const { ink } = sheet;
  ink.font = `${options.sizeMm}px "Source Serif 4${options.bold === true ? ' Bold' : ''}"`;
  ink.fillStyle = options.colour ?? INKS.print;
  ink.fillText(text, xMm, yMm);
  const widthMm = ink.measureText(text).width;
  sheet.lines.push({ text, hand: 'print', xMm, yMm: yMm - options.sizeMm * 0.75, widthMm, heightMm: options.sizeMm });
}

/** A stroke through points (mm) with the small wander of a hand. */
export function strokeByHand(
  sheet: Sheet,
  ctx: SKRSContext2D,
  points: readonly (readonly [number, number])[],
  options: { widthMm: number; colour: string; wanderMm?: number },
): void {
  const wander = options.wanderMm ?? 0.15;
  ctx.strokeStyle = options.colour;
  ctx.lineWidth = options.widthMm;
  ctx.beginPath();
  const shaky = points.map(([x, y]) => [x + sheet.random.gauss() * wander, y + sheet.random.gauss() * wander] as const);
  ctx.moveTo(shaky[0]![0], shaky[0]![1]);
  for (let i = 1; i < shaky.length - 1; i++) {
    const [x, y] = shaky[i]!;
    const [nx, ny] = shaky[i + 1]!;
    ctx.quadraticCurveTo(x, y, (x + nx) / 2, (y + ny) / 2);
  }
  ctx.lineTo(shaky.at(-1)![0], shaky.at(-1)![1]);
  ctx.stroke();
}

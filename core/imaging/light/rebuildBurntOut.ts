import { createPixelImage, type PixelImage } from '../raster/pixelImage';
import { quantile } from '../raster/quantile';

/*
 * Under a lamp of strong colour the channel it is brightest in burns out while the others still follow the light. Bare paper
 * then looks less coloured than it is, and thin black strokes, whose burnt-out part is lost, take the lamp's colour on. The
 * lamp is the same all over the page: where nothing is burnt out the paper tells the ratio of its channels, and with it the
 * lost values come from a channel that has them.
 */

/** From this level on a value may be cut off. */
const BURNT_FROM = 245;
/** From this level on a value surely is cut off. */
const CUT_OFF = 253;
/** Share of a page that must be burnt out in one channel, and not in its guide, before anything is done. */
const LEAST_BURNT = 0.03;
/** A guide is burnt out in less than this share of the places where its channel is. */
const GUIDE_BURNT = 0.25;
/** Levels of paper that is bright and not burnt out: near enough to it for the camera's tone curve to make no difference. */
const TELLING_FROM = 205;
/** Places with telling levels below which nothing is done. */
const LEAST_TELLING = 100;
/** A channel is brought down by at most this much to make room for what it lost. */
const LEAST_SCALE = 0.72;
/** Pixels looked at, at most. */
const SAMPLES = 60_000;

/** One channel as it must have been: ratio × guide where it is cut off, all of it scaled to fit. */
interface Rebuilt {
  readonly channel: number;
  readonly guide: number;
  readonly ratio: number;
  readonly scale: number;
}

/**
 * Rebuilds channels that are burnt out while another is not.
 * Method: one lamp scales the channels of neutral paper by constant factors (von Kries' diagonal model); limits: light of two
 * colours on one page, and ink whose colour lies in the burnt-out channel alone, are read as if paper reflected them.
 * @param page - RGB, 8 bits coded, or grey, which is left alone
 * @returns the page itself where nothing is to be done; otherwise a copy whose rebuilt channels are darker all over by the
 *   same factor, so that white paper is as coloured as its lamp
 */
export function rebuildBurntOut(page: PixelImage): PixelImage {
  const { width, height, channels, data } = page;
  if (channels === 1) return page;
  const rebuilt = [0, 1, 2].map((channel) => readChannel(page, channel));
  if (rebuilt.every((each) => each === null)) return page;
  const out = createPixelImage(width, height, channels);
  /** What a channel must have been, on the page's own scale; a guide may have been rebuilt itself, from the third. */
  const valueAt = (at: number, channel: number, guides: number): number => {
    const value = data[at + channel]!;
    const lost = rebuilt[channel] ?? null;
    return lost === null || value < BURNT_FROM || guides === 0
      ? value
      : Math.max(value, lost.ratio * valueAt(at, lost.guide, guides - 1));
  };
  out.data.set(data);
  for (const lost of rebuilt) {
    if (lost === null) continue;
    for (let at = 0; at < data.length; at += channels) {
      const value = data[at + lost.channel]!;
      out.data[at + lost.channel] = lost.scale * (value < BURNT_FROM ? value : valueAt(at, lost.channel, 2));
    }
  }
  return out;
}

function readChannel({ channels, data }: PixelImage, channel: number): Rebuilt | null {
  const step = Math.max(1, Math.floor(data.length / channels / SAMPLES)) * channels;
  let looked = 0;
  let burnt = 0;
  const burntToo = [0, 0, 0];
  const sums = [0, 0, 0];
  for (let at = 0; at < data.length; at += step) {
    looked++;
    for (let c = 0; c < 3; c++) sums[c]! += data[at + c]!;
    if (data[at + channel]! < CUT_OFF) continue;
    burnt++;
    for (let c = 0; c < 3; c++) if (data[at + c]! >= CUT_OFF) burntToo[c]!++;
  }
  if (burnt < LEAST_BURNT * looked) return null;
  const guides = [0, 1, 2].filter((c) => c !== channel && burntToo[c]! < GUIDE_BURNT * burnt);
  if (guides.length === 0) return null;
  const guide = guides.reduce((p, q) => (sums[q]! > sums[p]! ? q : p));
  const ratios: number[] = [];
  for (let at = 0; at < data.length; at += step) {
    const value = data[at + channel]!;
    if (value >= TELLING_FROM && value < BURNT_FROM) ratios.push(value / Math.max(1, data[at + guide]!));
  }
  if (ratios.length < LEAST_TELLING) return null;
  const ratio = quantile(ratios, 0.5);
  const lost: number[] = [];
  for (let at = 0; at < data.length; at += step)
    if (data[at + channel]! >= CUT_OFF && data[at + guide]! < CUT_OFF) lost.push(ratio * data[at + guide]!);
  if (lost.filter((value) => value > 255).length < LEAST_BURNT * looked) return null;
  return { channel, guide, ratio, scale: Math.max(LEAST_SCALE, Math.min(1, 255 / quantile(lost, 0.99))) };
}

import { createRandom } from '../../../demo/random';
import { createPixelImage, type PixelImage } from '../raster/pixelImage';
import { encodeSrgb, decodeSrgb } from '../raster/transferCurve';
import { estimateMotionBlur } from './estimateMotionBlur';
import type { MotionBlur } from './motionBlur';
import { flatPageOf, readPageLight } from '../finish/pageLight';
import { deconvolveMotionBlur } from './deconvolveMotionBlur';

const SIDE = 560;
const PAPER = 225;
const INK = [40, 60, 150] as const;

/** A page of short strokes in all directions, drawn out along a slip, with the sensor's noise. */
function written(slip: MotionBlur | null, noise = 0.6): PixelImage {
  const random = createRandom(11);
  const ink = new Float32Array(SIDE * SIDE);
  for (let k = 0; k < 900; k++) {
    const [x, y, angle, length] = [
      random.between(20, SIDE - 20),
      random.between(20, SIDE - 20),
      random.between(0, Math.PI),
      random.between(6, 18),
    ];
    for (let t = 0; t < length; t += 0.25) {
      const [px, py] = [x + t * Math.cos(angle), y + t * Math.sin(angle)];
      for (let j = -2; j <= 2; j++) {
        for (let i = -2; i <= 2; i++) {
          const [column, row] = [Math.round(px) + i, Math.round(py) + j];
          if (column < 0 || row < 0 || column >= SIDE || row >= SIDE) continue;
          const at = row * SIDE + column;
          ink[at] = Math.max(ink[at]!, Math.min(1, Math.max(0, 1.9 - Math.hypot(column - px, row - py))));
        }
      }
    }
  }
  const at = (x: number, y: number): number => {
    const [left, top] = [Math.floor(x), Math.floor(y)];
    if (left < 0 || top < 0 || left + 1 >= SIDE || top + 1 >= SIDE) return 0;
    const [fx, fy, i] = [x - left, y - top, top * SIDE + left];
    return (
      (ink[i]! * (1 - fx) + ink[i + 1]! * fx) * (1 - fy) + (ink[i + SIDE]! * (1 - fx) + ink[i + SIDE + 1]! * fx) * fy
    );
  };
  const steps = slip === null ? 1 : 24;
  const page = createPixelImage(SIDE, SIDE, 3);
  for (let y = 0; y < SIDE; y++) {
    for (let x = 0; x < SIDE; x++) {
      let covered = 0;
      for (let s = 0; s < steps; s++) {
        const along = slip === null ? 0 : ((s + 0.5) / steps - 0.5) * slip.lengthPx;
        covered += at(x + along * Math.cos(slip?.angleRad ?? 0), y + along * Math.sin(slip?.angleRad ?? 0)) / steps;
      }
      for (let c = 0; c < 3; c++) {
        const paper = decodeSrgb(PAPER / 255);
        page.data[(y * SIDE + x) * 3 + c] =
          255 * encodeSrgb(paper + (decodeSrgb(INK[c]! / 255) - paper) * covered) + noise * random.gauss();
      }
    }
  }
  return page;
}

const degrees = (rad: number): number => (rad * 180) / Math.PI;
const SLIP: MotionBlur = { lengthPx: 6, angleRad: Math.PI / 6 };
const slipped = written(SLIP);
const steady = written(null);
const mean = (values: ArrayLike<number>, of: (i: number) => number): number =>
  Array.from(values).reduce<number>((sum, _, i) => sum + of(i), 0) / values.length;

describe('findSlip', () => {
  it.each([
    [6, 30],
    [7, 120],
    [5.5, 80],
  ])('tells a slip of %s px at %s° by its length and direction', (lengthPx, angle) => {
    const found = estimateMotionBlur(written({ lengthPx, angleRad: (angle * Math.PI) / 180 }))!;
    expect(Math.abs(found.lengthPx / lengthPx - 1)).toBeLessThan(0.25);
    expect(Math.abs(degrees(found.angleRad) - angle)).toBeLessThan(10);
  });

  it('finds none where the hand was steady, on noisy paper, or with nothing to go by', () => {
    expect(estimateMotionBlur(steady)).toBeNull();
    expect(estimateMotionBlur(written(null, 8))).toBeNull();
    const blank = createPixelImage(SIDE, SIDE, 1);
    blank.data.fill(PAPER);
    expect(estimateMotionBlur(blank)).toBeNull();
    expect(estimateMotionBlur(createPixelImage(40, 30, 3))).toBeNull();
  });
});

describe('undoSlip', () => {
  const mended = deconvolveMotionBlur(slipped, readPageLight(flatPageOf(slipped)).field, SLIP);
  const off = (page: PixelImage): number => mean(page.data, (i) => Math.abs(page.data[i]! - steady.data[i]!));

  it('draws strokes together again', () => {
    expect(off(mended)).toBeLessThan(0.6 * off(slipped));
    const darkest = (page: PixelImage): number => page.data.slice().sort()[Math.floor(0.02 * page.data.length)]!;
    expect(darkest(slipped) - darkest(steady)).toBeGreaterThan(45);
    expect(darkest(mended) - darkest(steady)).toBeLessThan(0.6 * (darkest(slipped) - darkest(steady)));
  });

  it('keeps the ink’s colour, its amount, and bare paper', () => {
    const channel = (page: PixelImage, c: number): number =>
      mean({ length: SIDE * SIDE }, (i) => decodeSrgb(PAPER / 255) - decodeSrgb(page.data[3 * i + c]! / 255));
    for (const c of [0, 1, 2]) expect(channel(mended, c) / channel(slipped, c)).toBeCloseTo(1, 1);
    expect(channel(mended, 2) / channel(mended, 0)).toBeCloseTo(channel(steady, 2) / channel(steady, 0), 1);
    const blank = createPixelImage(SIDE, 90, 1);
    blank.data.fill(PAPER);
    expect(deconvolveMotionBlur(blank, readPageLight(flatPageOf(blank)).field, SLIP).data).toEqual(blank.data);
  });

  it('is done to what finishes are made from, and not to the page as shot', () => {
    const lit = readPageLight({ ...flatPageOf(slipped), motionBlur: SLIP });
    expect(off(lit.page)).toBeLessThan(0.8 * off(slipped));
    expect(lit.flat).toBe(slipped);
    const calm = readPageLight(flatPageOf(steady));
    expect(calm.page).toBe(steady);
  });
});

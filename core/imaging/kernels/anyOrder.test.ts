import { createHash } from 'node:crypto';
import { createRandom } from '../../../demo/random';
import { detectOutline } from '../detect/detectOutline';
import { findLiveOutline } from '../live/findLiveOutline';
import { smoothGrain } from '../finish/inkPlane';
import { press } from '../finish/press';
import { restoreCoverageInto } from '../finish/restoreCoverage';
import { flattenPage } from '../flatten/flattenPage';
import { encodeJbig2 } from '../jbig2/jbig2';
import { countDarker, inkWhere, inkDepthOf } from '../layers/inkDepth';
import { findStrokes } from '../layers/findStrokes';
import { separateLayers, withCheaperMasks } from '../layers/separateLayers';
import { estimatePaperField } from '../light/paperField';
import { divideByBackground } from '../light/divideByBackground';
import { normaliseLightness } from '../light/normaliseLightness';
import { deconvolveMotionBlur } from '../motion-blur/deconvolveMotionBlur';
import { boxBlur } from '../raster/boxBlur';
import { enlargePlane } from '../raster/enlargePlane';
import { guidedSmooth } from '../raster/guidedSmooth';
import { halveImage } from '../raster/halveImage';
import { closePlane, largestByteAround } from '../raster/morphology';
import { createPixelImage } from '../raster/pixelImage';
import { packRgb, packTurned } from '../raster/packRgb';
import { resizeByArea } from '../raster/resizeByArea';
import { readUpright } from '../upright/readUpright';
import { withWorkspace } from './workspace';

/*
 * Everything that runs in the kernels' memory, called in one order and in another, with other things lying in the memory
 * before and other workspaces open around it: what comes out is the same, and what came out before is left alone.
 */

const random = createRandom(3);
const [WIDTH, HEIGHT] = [331, 263];
/** A pale sheet with strokes on a darker desk. */
const photo = createPixelImage(WIDTH, HEIGHT, 3);
for (let y = 0; y < HEIGHT; y++)
  for (let x = 0; x < WIDTH; x++) {
    const onSheet = x > 40 && x < 290 && y > 30 && y < 230;
    const stroke = onSheet && y % 24 < 4 && (x * 7 + y) % 31 < 19;
    const level = (stroke ? 70 : onSheet ? 214 : 96) + 8 * random.next();
    photo.data.set([level, level - 4, level - (stroke ? 0 : 12)], 3 * (y * WIDTH + x));
  }
const plane = Float32Array.from({ length: WIDTH * HEIGHT }, (_, i) => photo.data[3 * i]!);
const greys = Uint8ClampedArray.from(plane);
const grey = { width: WIDTH, height: HEIGHT, channels: 1, data: greys } as const;
const corners = [
  { x: 40, y: 30 },
  { x: 290, y: 30 },
  { x: 290, y: 230 },
  { x: 40, y: 230 },
] as const;
const field = estimatePaperField(photo);
const white = { below: 1, least: 0.98, most: 1 };

const WORK: Readonly<Record<string, () => unknown>> = {
  boxBlur: () => boxBlur(plane, WIDTH, HEIGHT, { radius: 5, passes: 2 }),
  guidedSmooth: () => guidedSmooth(plane, WIDTH, HEIGHT, 3, 0.03),
  enlargePlane: () => enlargePlane(plane, { width: WIDTH, height: HEIGHT }, { width: 500, height: 400 }),
  halveImage: () => halveImage(photo),
  closePlane: () => closePlane(plane, WIDTH, HEIGHT, 6),
  largestByteAround: () => largestByteAround(greys, WIDTH, HEIGHT, 4),
  resizeByArea: () => resizeByArea(photo, 100, 77),
  packRgb: () => {
    const into = new Uint8ClampedArray(30);
    packRgb(greys.subarray(0, 40), into, 0, 'bgra');
    return into;
  },
  packTurned: () => {
    const into = createPixelImage(2, 5, 3);
    packTurned({ pixels: greys.subarray(0, 40), order: 'rgba', length: 5, first: 0, clockwise: true }, into);
    return into;
  },
  detectOutline: () => detectOutline(photo),
  findLiveOutline: () => findLiveOutline(photo),
  readUpright: () => readUpright(photo),
  flattenPage: () => flattenPage(photo, { corners, sheet: null }, { width: 200, height: 160 }),
  normaliseLightness: () => normaliseLightness(photo, field),
  divideByBackground: () => divideByBackground(photo, field, white, 2),
  deconvolveMotionBlur: () => deconvolveMotionBlur(photo, field, { lengthPx: 6, angleRad: 0.4 }),
  restoreCoverageInto: () => {
    const { lit, absorbed: missing } = divideByBackground(photo, field, white, 2);
    restoreCoverageInto(lit, missing, { sharpened: 1.7, firmness: 2.3 });
    return lit;
  },
  press: () => {
    const ink = { width: WIDTH, height: HEIGHT, depth: greys };
    const level = (value: number): Uint8Array => new Uint8Array(greys.length).fill(value);
    return press({ edge: 0.45, ink, floor: level(20), ridge: level(60), near: level(210) }, 0);
  },
  smoothGrain: () => smoothGrain({ width: WIDTH, height: HEIGHT, depth: greys }),
  encodeJbig2: () => encodeJbig2(grey),
  tonesOf: () => inkDepthOf(photo),
  inkWhere: () => inkWhere(greys, greys, 30, 0.5),
  countDarker: () => countDarker(greys, 100),
  separateLayers: () => {
    const strokes = findStrokes(photo);
    return withCheaperMasks(photo, strokes.rules, separateLayers(photo, 2, strokes));
  },
};
const names = Object.keys(WORK);

/** What a result is known again by: arrays by their hash. */
const printOf = (result: unknown): string =>
  JSON.stringify(result, (_, value: unknown) =>
    ArrayBuffer.isView(value)
      ? createHash('sha256')
          .update(new Uint8Array(value.buffer, value.byteOffset, value.byteLength))
          .digest('hex')
      : value,
  );

/** Leaves nothing in the memory as it was. */
const litter = (): void => withWorkspace((ws) => ws.u8(1 << 23).fill(0xa5));

it('gives the same in any order, whatever lies in the memory and whoever is at work around it', () => {
  const first = names.map((name) => ({ name, result: WORK[name]!() }));
  const printed = new Map(first.map(({ name, result }) => [name, printOf(result)]));
  for (const round of [0, 1, 2]) {
    const order = names.map((name) => ({ name, at: random.next() })).sort((p, q) => p.at - q.at);
    for (const { name } of order) {
      litter();
      const again = withWorkspace((ws) => {
        const around = ws.of(Float32Array.of(round, 17, 4));
        const result = WORK[name]!();
        expect(Array.from(around.copy())).toEqual([round, 17, 4]);
        return printOf(result);
      });
      expect({ name, print: again }).toEqual({ name, print: printed.get(name) });
    }
  }
  for (const { name, result } of first) expect(printOf(result)).toEqual(printed.get(name));
});

import type { PixelImage } from '../../core/imaging/raster/pixelImage';
import type { Point } from '../../core/imaging/geometry/point';
import type { Chance } from './chance';
import { smoothNoise } from './smoothNoise';
import type { Space, Surface } from './bentSurface';
import type { Paper } from './paper';

/** A shot of a sheet on a desk. */
export interface Capture {
  readonly image: PixelImage;
  /** Where a place of the paper (mm) is seen, px. */
  readonly seenAt: (xMm: number, yMm: number) => Point;
  /** Focal length over the long side, as the file would tell it. */
  readonly focalRatio: number;
}

const WIDTH = 1500;
const HEIGHT = 2000;
/** Squares of the mesh across and down. */
const MESH = [140, 190] as const;

/** A camera above the desk, tilted and turned, that sees the sheet nearly fill the frame, or a part of it that does, or aims past it. */
function cameraOver(
  surface: Surface,
  paper: Paper,
  chance: Chance,
  { near = false, cut = false, sideways = false }: CaptureOptions,
) {
  const focalRatio = chance.from(0.66, 0.86);
  const focal = focalRatio * HEIGHT;
  const radial = chance.from(-0.02, 0.03);
  const [tilt, heading, roll] = [chance.from(0, 0.4), chance.from(0, 2 * Math.PI), chance.from(-0.12, 0.12)];
  const turn = sideways ? roll + Math.PI / 2 : roll;
  const towards = [Math.sin(tilt) * Math.cos(heading), Math.sin(tilt) * Math.sin(heading), Math.cos(tilt)] as const;
  // the camera's right and down, before it is rolled
  const norm = Math.hypot(towards[2], towards[0]);
  const right0: Space = [towards[2] / norm, 0, -towards[0] / norm];
  const down0: Space = [
    towards[1] * right0[2] - towards[2] * right0[1],
    towards[2] * right0[0] - towards[0] * right0[2],
    towards[0] * right0[1] - towards[1] * right0[0],
  ];
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  const mix = (p: Space, q: Space, a: number, b: number): Space => [
    p[0] * a + q[0] * b,
    p[1] * a + q[1] * b,
    p[2] * a + q[2] * b,
  ];
  const right = mix(right0, down0, c, s);
  const down = mix(right0, down0, -s, c);
  const dot = (p: Space, q: readonly number[]): number => p[0] * q[0]! + p[1] * q[1]! + p[2] * q[2]!;
  const project = (p: Space, distance: number): Point => {
    const depth = distance - dot(p, towards);
    const [x, y] = [dot(p, right) / depth, dot(p, down) / depth];
    const bent = focal * (1 + radial * (x * x + y * y));
    return { x: WIDTH / 2 + x * bent, y: HEIGHT / 2 + y * bent };
  };
  const rim = Array.from({ length: 41 }, (_, k) => k / 40).flatMap((t) => [
    surface(t * paper.widthMm, 0),
    surface(t * paper.widthMm, paper.heightMm),
    surface(0, t * paper.heightMm),
    surface(paper.widthMm, t * paper.heightMm),
  ]);
  const margin = chance.from(0.03, 0.09) * WIDTH;
  const inside = (q: Point, by: number): boolean => q.x > by && q.y > by && q.x < WIDTH - by && q.y < HEIGHT - by;
  let distance = 250;
  while (!rim.every((p) => inside(project(p, distance), margin))) distance *= 1.01;
  if (near) while (rim.some((p) => inside(project(p, distance), 0))) distance *= 0.99;
  const aside = cut
    ? pastTheFrame(
        rim.map((p) => project(p, distance)),
        chance,
      )
    : { x: 0, y: 0 };
  return {
    focalRatio,
    project: (p: Space): Point => {
      const { x, y } = project(p, distance);
      return { x: x + aside.x, y: y + aside.y };
    },
    nearness: (p: Space): number => dot(p, towards),
  };
}

/** How far to aim aside so that the sheet runs out of the picture on one side, or on two that meet. */
function pastTheFrame(rim: readonly Point[], chance: Chance): Point {
  const xs = rim.map(({ x }) => x);
  const ys = rim.map(({ y }) => y);
  const [left, right, top, bottom] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const out = (from: number, to: number, size: number): number => {
    const lost = chance.from(0.02, 0.12) * (to - from);
    return chance.sign() < 0 ? -from - lost : size - to + lost;
  };
  const sides = chance.one(['across', 'down', 'both'] as const);
  return {
    x: sides === 'down' ? 0 : out(left, right, WIDTH),
    y: sides === 'across' ? 0 : out(top, bottom, HEIGHT),
  };
}

interface CaptureOptions {
  /** From so near that the sheet fills the picture. */
  readonly near?: boolean;
  /** What it lies on: a desk, white cloth that is rumpled, or a desk with another sheet of the same paper half under it. */
  readonly ground?: Ground;
  /** Aimed so that one side of the sheet, or two that meet, are out of the picture. */
  readonly cut?: boolean;
  /** With the camera held upright over a sheet that lies sideways, as spreads do. */
  readonly sideways?: boolean;
}

type Ground = 'desk' | 'cloth' | 'sheet';

/** Shoots a sheet, from so near that it fills the picture where that is asked for: a mesh of its surface, each pixel from the nearest piece, lit by a lamp and the sky; noise and a little blur. */
export function capture(paper: Paper, surface: Surface, chance: Chance, options: CaptureOptions = {}): Capture {
  const { ground = 'desk' } = options;
  const camera = cameraOver(surface, paper, chance, options);
  const data = new Uint8ClampedArray(3 * WIDTH * HEIGHT);
  if (ground === 'cloth') paintCloth(data, chance);
  else paintDesk(data, chance);
  const nearest = new Float32Array(WIDTH * HEIGHT).fill(-Infinity);
  const lamp = [chance.from(-0.5, 0.5), chance.from(-0.5, 0.5), 1] as const;
  const fall = [chance.from(-0.25, 0.25), chance.from(-0.25, 0.25)] as const;
  if (ground === 'sheet') paintSheetUnder(data, paper, camera, chance);
  const [across, down] = MESH;
  const points: { at: Space; seen: Point }[] = [];
  for (let j = 0; j <= down; j++)
    for (let i = 0; i <= across; i++) {
      const at = surface((i / across) * paper.widthMm, (j / down) * paper.heightMm);
      points.push({ at, seen: camera.project(at) });
    }
  for (let j = 0; j < down; j++)
    for (let i = 0; i < across; i++) {
      const k = j * (across + 1) + i;
      const [a, b, c, d] = [k, k + 1, k + across + 2, k + across + 1].map((n) => points[n]!) as [
        (typeof points)[0],
        (typeof points)[0],
        (typeof points)[0],
        (typeof points)[0],
      ];
      const light = 0.35 + 0.6 * facing(a.at, b.at, d.at, lamp);
      const fill = (p: typeof a, q: typeof a, r: typeof a, at: readonly (readonly [number, number])[]): void =>
        fillTriangle([p.seen, q.seen, r.seen], (x, y, w) => {
          const near = camera.nearness(p.at) * w[0]! + camera.nearness(q.at) * w[1]! + camera.nearness(r.at) * w[2]!;
          const to = y * WIDTH + x;
          if (near <= nearest[to]!) return;
          nearest[to] = near;
          const px = at[0]![0] * w[0]! + at[1]![0] * w[1]! + at[2]![0] * w[2]!;
          const py = at[0]![1] * w[0]! + at[1]![1] * w[1]! + at[2]![1] * w[2]!;
          const slope = 1 + fall[0] * (x / WIDTH - 0.5) + fall[1] * (y / HEIGHT - 0.5);
          for (let ch = 0; ch < 3; ch++) data[3 * to + ch] = readPaper(paper, px, py, ch) * light * slope;
        });
      const [x0, x1] = [(i / across) * paper.width, ((i + 1) / across) * paper.width];
      const [y0, y1] = [(j / down) * paper.height, ((j + 1) / down) * paper.height];
      fill(a, b, c, [
        [x0, y0],
        [x1, y0],
        [x1, y1],
      ]);
      fill(a, c, d, [
        [x0, y0],
        [x1, y1],
        [x0, y1],
      ]);
    }
  if (ground !== 'desk') castShadow(data, nearest, chance);
  addNoise(data, chance);
  return {
    image: { width: WIDTH, height: HEIGHT, channels: 3, data },
    seenAt: (x, y) => camera.project(surface(x, y)),
    focalRatio: camera.focalRatio,
  };
}

/** How squarely a piece of paper with three corners faces a lamp: 0.1 to 1. */
function facing(corner: Space, right: Space, down: Space, lamp: readonly [number, number, number]): number {
  const [u, v] = [sub(right, corner), sub(down, corner)];
  const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]] as const;
  const along = n[0] * lamp[0] + n[1] * lamp[1] + n[2] * lamp[2];
  return Math.max(0.1, along / (Math.hypot(...n) * Math.hypot(...lamp)));
}

function addNoise(data: Uint8ClampedArray, chance: Chance): void {
  const grain = chance.from(1.5, 4);
  // a table of noise, begun anew at a chance place in each row: millions of fresh numbers would take most of the time
  const noise = Float32Array.from({ length: 1 << 15 }, () => grain * chance.normal());
  for (let y = 0, to = 0; y < HEIGHT; y++)
    for (let x = 0, from = Math.floor(chance.from(0, 1 << 15)); x < 3 * WIDTH; x++, to++, from++)
      data[to] = data[to]! + noise[from & 0x7fff]!;
}

const sub = (p: Space, q: Space): Space => [p[0] - q[0], p[1] - q[1], p[2] - q[2]];

function readPaper({ width, height, data }: Paper, x: number, y: number, channel: number): number {
  const [px, py] = [Math.min(width - 1.001, Math.max(0, x - 0.5)), Math.min(height - 1.001, Math.max(0, y - 0.5))];
  const [i, j] = [Math.floor(px), Math.floor(py)];
  const at = 3 * (j * width + i) + channel;
  const [a, b] = [px - i, py - j];
  return (
    (data[at]! * (1 - a) + data[at + 3]! * a) * (1 - b) +
    (data[at + 3 * width]! * (1 - a) + data[at + 3 * width + 3]! * a) * b
  );
}

/** Calls back for every pixel whose middle lies in a triangle, with the weights of its corners. */
function fillTriangle(
  [a, b, c]: readonly [Point, Point, Point],
  paint: (x: number, y: number, weights: readonly number[]) => void,
): void {
  const area = (b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x);
  if (area === 0) return;
  const clip = (value: number, most: number): number => Math.min(most, Math.max(0, value));
  const left = clip(Math.floor(Math.min(a.x, b.x, c.x)), WIDTH - 1);
  const right = clip(Math.ceil(Math.max(a.x, b.x, c.x)), WIDTH - 1);
  const top = clip(Math.floor(Math.min(a.y, b.y, c.y)), HEIGHT - 1);
  const bottom = clip(Math.ceil(Math.max(a.y, b.y, c.y)), HEIGHT - 1);
  for (let y = top; y <= bottom; y++)
    for (let x = left; x <= right; x++) {
      const [px, py] = [x + 0.5, y + 0.5];
      const wb = ((px - a.x) * (c.y - a.y) - (py - a.y) * (c.x - a.x)) / area;
      const wc = ((b.x - a.x) * (py - a.y) - (b.y - a.y) * (px - a.x)) / area;
      const wa = 1 - wb - wc;
      if (wa >= -1e-9 && wb >= -1e-9 && wc >= -1e-9) paint(x, y, [wa, wb, wc]);
    }
}

/** White cloth in folds: its slopes towards the window and away from it are lit more and less. */
function paintCloth(data: Uint8ClampedArray, chance: Chance): void {
  const tone = chance.from(205, 240);
  const folds = [smoothNoise(chance, 3), smoothNoise(chance, 7), smoothNoise(chance, 16)] as const;
  const turn = chance.from(0, 2 * Math.PI);
  const depth = chance.from(0.1, 0.35);
  const heightAt = (x: number, y: number): number => folds[0](x, y) + 0.25 * folds[1](x, y) + 0.05 * folds[2](x, y);
  const step = 0.004;
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++) {
      const [u, v] = [x / WIDTH, y / HEIGHT];
      const along = heightAt(u + step * Math.cos(turn), v + step * Math.sin(turn)) - heightAt(u, v);
      const light = Math.min(1.08, Math.max(0.55, 1 + (depth * along) / (10 * step)));
      for (let ch = 0; ch < 3; ch++) data[3 * (y * WIDTH + x) + ch] = (tone - 2 * ch) * light;
    }
}

/** Another sheet of the same paper that lies flat and askew, half under this one. */
function paintSheetUnder(
  data: Uint8ClampedArray,
  { widthMm: w, heightMm: h, data: paper }: Paper,
  camera: ReturnType<typeof cameraOver>,
  chance: Chance,
): void {
  const [cx, cy] = [w * chance.from(0.25, 0.6) * chance.sign(), h * chance.from(-0.35, 0.35)];
  const turn = chance.from(-0.5, 0.5);
  const light = chance.from(0.86, 0.96);
  const corners = [
    [-w / 2, -h / 2],
    [w / 2, -h / 2],
    [w / 2, h / 2],
    [-w / 2, h / 2],
  ].map(([x, y]) =>
    camera.project([cx + x! * Math.cos(turn) - y! * Math.sin(turn), cy + x! * Math.sin(turn) + y! * Math.cos(turn), 0]),
  ) as [Point, Point, Point, Point];
  const paint = (x: number, y: number): void => {
    for (let ch = 0; ch < 3; ch++) data[3 * (y * WIDTH + x) + ch] = paper[ch]! * light;
  };
  fillTriangle([corners[0], corners[1], corners[2]], paint);
  fillTriangle([corners[0], corners[2], corners[3]], paint);
}

/** How far a sheet's shadow reaches, px. */
const SHADOW_PX = 14;

/** Darkens what lies beside the sheet, more on the side away from the lamp. */
function castShadow(data: Uint8ClampedArray, nearest: Float32Array, chance: Chance): void {
  const turn = chance.from(0, 2 * Math.PI);
  const [dx, dy] = [Math.round(9 * Math.cos(turn)), Math.round(9 * Math.sin(turn))];
  const depth = chance.from(0.15, 0.45);
  // how much sheet there is above and to the left of each place
  const sums = new Float64Array((WIDTH + 1) * (HEIGHT + 1));
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0, row = 0; x < WIDTH; x++) {
      row += nearest[y * WIDTH + x]! > -Infinity ? 1 : 0;
      sums[(y + 1) * (WIDTH + 1) + x + 1] = sums[y * (WIDTH + 1) + x + 1]! + row;
    }
  const within = (value: number, most: number): number => Math.min(most, Math.max(0, value));
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++) {
      if (nearest[y * WIDTH + x]! > -Infinity) continue;
      const [x0, x1] = [within(x - dx - SHADOW_PX, WIDTH), within(x - dx + SHADOW_PX, WIDTH)];
      const [y0, y1] = [within(y - dy - SHADOW_PX, HEIGHT), within(y - dy + SHADOW_PX, HEIGHT)];
      const at = (i: number, j: number): number => sums[j * (WIDTH + 1) + i]!;
      const share = (at(x1, y1) - at(x0, y1) - at(x1, y0) + at(x0, y0)) / (4 * SHADOW_PX ** 2);
      for (let ch = 0; ch < 3; ch++) data[3 * (y * WIDTH + x) + ch]! *= 1 - depth * share;
    }
}

function paintDesk(data: Uint8ClampedArray, chance: Chance): void {
  const tone = chance.one([
    [120, 88, 60],
    [70, 74, 80],
    [150, 120, 90],
    [52, 60, 52],
    [105, 60, 52],
  ] as const);
  const [broad, fine] = [smoothNoise(chance, 6), smoothNoise(chance, 90)];
  const stretch = chance.one([1, 0.08]);
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++) {
      const by = 1 + 0.12 * broad(x / WIDTH, y / HEIGHT) + 0.1 * fine((x / WIDTH) * stretch, y / HEIGHT);
      for (let ch = 0; ch < 3; ch++) data[3 * (y * WIDTH + x) + ch] = tone[ch]! * by;
    }
}

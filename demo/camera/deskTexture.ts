import { createCanvas, type SKRSContext2D } from '@napi-rs/canvas';
import { createRandom, type Random } from '../random';
import type { Lens } from './lens';
import type { Scene } from './scene';

export const DESK_MM = 760;
const TEXELS_PER_MM = 3;
const SIZE = DESK_MM * TEXELS_PER_MM;

/** The desk seen from straight above, sRGB RGBA, its middle under the page's middle. */
export interface DeskTexture {
  readonly size: number;
  readonly texelsPerMm: number;
  readonly data: Uint8ClampedArray;
  /** Where a texel stands in `data`; one that nobody has looked at is painted first. */
  at(x: number, y: number): number;
}

/** A part of the desk's texture: from `x0`, `y0` up to, but without, `x1`, `y1`; texels. */
interface TexelBox {
  readonly x0: number;
  readonly y0: number;
  readonly x1: number;
  readonly y1: number;
}

/** The desk drawn last: frames of one scene, and tests, ask for the same one again and again. */
let last: { readonly key: string; readonly desk: DeskTexture } | null = null;

/** Draws the desk, at least where the lens sees it. */
export function drawDesk(scene: Scene, pageWidthMm: number, pageHeightMm: number, lens: Lens): DeskTexture {
  // what lies on the desk needs the ground below it at once; bare ground is painted texel by texel, as it is looked at
  const seen = scene.underSheet || scene.desk === 'clutter' ? seenBox(lens) : null;
  const key = JSON.stringify([scene.seed, scene.desk, scene.underSheet, pageWidthMm, pageHeightMm, seen]);
  if (last?.key === key) return last.desk;
  const random = createRandom(scene.seed * 31 + 5);
  const paint = groundOf(scene, random);
  const data =
    seen === null
      ? new Uint8ClampedArray(SIZE * SIZE * 4)
      : drawThings(scene, random, paint, seen, [pageWidthMm, pageHeightMm]);
  const at = (x: number, y: number): number => {
    const texel = (y * SIZE + x) * 4;
    if (data[texel + 3] === 0) paint(data, texel, x / TEXELS_PER_MM, y / TEXELS_PER_MM);
    return texel;
  };
  last = { key, desk: { size: SIZE, texelsPerMm: TEXELS_PER_MM, data, at } };
  return last.desk;
}

/** The box is larger than what is seen by up to this, so that frames from nearly one place share it. */
const BOX_STEP = 50 * TEXELS_PER_MM;
const POINTS_A_SIDE = 16;

/** What the lens sees of the desk; all of it where the lens sees past the desk's end. */
function seenBox(lens: Lens): TexelBox {
  const { x: halfWidth, y: halfHeight } = lens.centre;
  const rim = Array.from({ length: POINTS_A_SIDE + 1 }, (_, i) => (2 * i) / POINTS_A_SIDE).flatMap((t) => [
    lens.deskAt(halfWidth * t, 0),
    lens.deskAt(halfWidth * t, 2 * halfHeight),
    lens.deskAt(0, halfHeight * t),
    lens.deskAt(2 * halfWidth, halfHeight * t),
  ]);
  const texels = rim.map((at) => at && [at.xMm, at.yMm].map((mm) => (mm + DESK_MM / 2) * TEXELS_PER_MM));
  const whole = { x0: 0, y0: 0, x1: SIZE, y1: SIZE };
  if (texels.some((at) => at === null || at.some((v) => v < 0 || v > SIZE))) return whole;
  // between two points of the rim a line of the picture may bulge out by less than this
  const bulge = 10 * TEXELS_PER_MM;
  const down = (axis: 0 | 1): number =>
    Math.max(0, Math.floor((Math.min(...texels.map((at) => at![axis]!)) - bulge) / BOX_STEP) * BOX_STEP);
  const up = (axis: 0 | 1): number =>
    Math.min(SIZE, Math.ceil((Math.max(...texels.map((at) => at![axis]!)) + bulge) / BOX_STEP) * BOX_STEP);
  return { x0: down(0), y0: down(1), x1: up(0), y1: up(1) };
}

/** The ground, where it is seen, and what lies on it beside and below the page. */
function drawThings(
  scene: Scene,
  random: Random,
  paint: Paint,
  { x0, y0, x1, y1 }: TexelBox,
  [pageWidthMm, pageHeightMm]: readonly [number, number],
): Uint8ClampedArray {
  const ctx = createCanvas(SIZE, SIZE).getContext('2d');
  const ground = ctx.createImageData(x1 - x0, y1 - y0);
  let at = 0;
  for (let y = y0; y < y1; y++)
    for (let x = x0; x < x1; x++, at += 4) paint(ground.data, at, x / TEXELS_PER_MM, y / TEXELS_PER_MM);
  ctx.putImageData(ground, x0, y0);
  ctx.scale(TEXELS_PER_MM, TEXELS_PER_MM);
  ctx.translate(DESK_MM / 2, DESK_MM / 2);
  drawUnderSheet(ctx, scene, random, pageWidthMm, pageHeightMm);
  if (scene.desk === 'clutter') drawClutter(ctx, random, pageWidthMm, pageHeightMm);
  return ctx.getImageData(0, 0, SIZE, SIZE).data;
}

/** Paints one texel, RGBA at a place of `data`, as the ground is there; mm from the texture's top left. */
type Paint = (data: Uint8ClampedArray, at: number, xMm: number, yMm: number) => void;

function groundOf(scene: Scene, random: Random): Paint {
  const kind = scene.desk === 'clutter' ? random.pick(['wood', 'slate', 'pale'] as const) : scene.desk;
  return { wood: paintWood, pale: paintPale, cloth: paintCloth, slate: paintSlate }[kind](random);
}

function set(data: Uint8ClampedArray, at: number, r: number, g: number, b: number): void {
  data[at] = r;
  data[at + 1] = g;
  data[at + 2] = b;
  data[at + 3] = 255;
}

function valueNoise(random: Random): (x: number, y: number) => number {
  const n = 256;
  const lattice = Float32Array.from({ length: n * n }, () => random.next());
  return (x, y) => {
    const xi = Math.floor(x);
    const yi = Math.floor(y);
    const fx = x - xi;
    const fy = y - yi;
    const sx = fx * fx * (3 - 2 * fx);
    const sy = fy * fy * (3 - 2 * fy);
    const at = (i: number, j: number): number => lattice[(j & 255) * n + (i & 255)]!;
    const top = at(xi, yi) * (1 - sx) + at(xi + 1, yi) * sx;
    const bottom = at(xi, yi + 1) * (1 - sx) + at(xi + 1, yi + 1) * sx;
    return top * (1 - sy) + bottom * sy;
  };
}

function paintWood(random: Random): Paint {
  const noise = valueNoise(random);
  const [r, g, b] = random.pick([
    [92, 58, 36],
    [128, 88, 56],
    [64, 44, 34],
    [158, 118, 78],
  ] as const);
  const plankMm = random.between(70, 160);
  return (data, to, x, y) => {
    const plank = Math.floor(y / plankMm);
    const seam = Math.abs(y - Math.round(y / plankMm) * plankMm) < 0.7 ? 0.55 : 1;
    const warp = 6 * noise(x * 0.012 + plank * 7, y * 0.04);
    const ring = 0.5 + 0.5 * Math.sin((y * 0.35 + warp * 3 + plank * 11) * 1.6);
    const grain = noise(x * 0.06 + plank * 31, y * 3.1) * 0.6 + noise(x * 0.5, y * 6) * 0.4;
    const k = (0.72 + 0.22 * ring * noise(x * 0.01, y * 0.02 + plank) + 0.28 * grain) * seam;
    set(data, to, r * k, g * k, b * k);
  };
}

function paintPale(random: Random): Paint {
  const noise = valueNoise(random);
  const [r, g, b] = random.pick([
    [222, 218, 210],
    [205, 206, 205],
    [232, 224, 206],
    [214, 200, 178],
  ] as const);
  return (data, to, x, y) => {
    const k = 0.955 + 0.05 * noise(x * 0.03, y * 0.05) + 0.03 * noise(x * 1.1, y * 1.4);
    set(data, to, r * k, g * k, b * k);
  };
}

function paintCloth(random: Random): Paint {
  const noise = valueNoise(random);
  const colours = random.pick([
    [
      [176, 60, 62],
      [236, 228, 214],
    ],
    [
      [52, 84, 120],
      [210, 214, 220],
    ],
    [
      [88, 112, 84],
      [226, 220, 190],
    ],
  ] as const);
  const pitch = random.between(9, 28);
  const dots = random.chance(0.35);
  return (data, to, x, y) => {
    const a = Math.sin((x / pitch) * Math.PI * 2) > 0 ? 0.5 : 0;
    const c = Math.sin((y / pitch) * Math.PI * 2) > 0 ? 0.5 : 0;
    const gx = ((x / pitch) % 1) - 0.5;
    const gy = ((y / pitch) % 1) - 0.5;
    const t = dots ? (gx * gx + gy * gy < 0.07 ? 1 : 0) : a + c;
    const weave = 0.86 + 0.1 * Math.sin(x * 7) * Math.sin(y * 7) + 0.12 * noise(x * 2, y * 2);
    const [p, q] = colours;
    const mix = (c: 0 | 1 | 2): number => (p[c] * (1 - t) + q[c] * t) * weave;
    set(data, to, mix(0), mix(1), mix(2));
  };
}

function paintSlate(random: Random): Paint {
  const noise = valueNoise(random);
  const base = random.between(34, 74);
  return (data, to, x, y) => {
    const k = base * (0.85 + 0.25 * noise(x * 0.08, y * 0.08) + 0.2 * noise(x * 1.7, y * 1.7));
    set(data, to, k, k * 1.02, k * 1.06);
  };
}

/** A second white sheet, partly beneath the page. */
function drawUnderSheet(ctx: SKRSContext2D, scene: Scene, random: Random, w: number, h: number): void {
  ctx.save();
  ctx.rotate(scene.headingRad + random.pick([-1, 1]) * random.between(0.06, 0.5));
  ctx.translate(
    random.pick([-1, 1]) * w * random.between(0.15, 0.55),
    random.pick([-1, 1]) * h * random.between(0.1, 0.4),
  );
  ctx.shadowColor = 'rgba(0,0,0,0.35)';
  ctx.shadowBlur = 8;
  ctx.shadowOffsetX = 3;
  ctx.shadowOffsetY = 4;
  ctx.fillStyle = random.pick(['#f6f4ee', '#f2efe6', '#fbfaf7', '#e9eef2']);
  ctx.fillRect(-105, -148, 210, 297);
  ctx.shadowColor = 'transparent';
  ctx.fillStyle = 'rgba(40,46,80,0.75)';
  for (let y = -128; y < 130; y += 9) {
    if (random.chance(0.25)) continue;
    for (let x = -88; x < random.between(20, 88); x += random.between(6, 16))
      ctx.fillRect(x, y, random.between(3, 11), 1.1);
  }
  ctx.restore();
}

function drawClutter(ctx: SKRSContext2D, random: Random, w: number, h: number): void {
  const around = (clear: number): [number, number] => {
    const angle = random.between(0, 2 * Math.PI);
    return [Math.cos(angle) * (w / 2 + clear), Math.sin(angle) * (h / 2 + clear)];
  };
  for (let i = random.whole(1, 3); i > 0; i--) drawPen(ctx, random, ...around(random.between(5, 30)));
  drawMug(ctx, random, ...around(random.between(45, 60)));
  if (random.chance(0.5)) {
    const [x, y] = around(95);
    ctx.save();
    ctx.translate(x, y);
    ctx.rotate(random.between(0, 3));
    ctx.shadowColor = 'rgba(0,0,0,0.5)';
    ctx.shadowBlur = 14;
    ctx.fillStyle = random.pick(['#2a4c62', '#7c2f35', '#3c3f46']);
    ctx.fillRect(-60, -85, 120, 170);
    ctx.shadowColor = 'transparent';
    ctx.fillStyle = 'rgba(255,255,255,0.75)';
    ctx.fillRect(-42, -60, 84, 22);
    ctx.restore();
  }
}

function drawPen(ctx: SKRSContext2D, random: Random, x: number, y: number): void {
  ctx.save();
  ctx.translate(x, y);
  ctx.rotate(random.between(0, Math.PI));
  ctx.shadowColor = 'rgba(0,0,0,0.5)';
  ctx.shadowBlur = 6;
  ctx.shadowOffsetY = 3;
  const body = ctx.createLinearGradient(0, -4.5, 0, 4.5);
  const colour = random.pick(['#1c3f94', '#a3262e', '#222226', '#d9a520']);
  body.addColorStop(0, '#ffffff');
  body.addColorStop(0.3, colour);
  body.addColorStop(1, '#101014');
  ctx.fillStyle = body;
  ctx.beginPath();
  ctx.roundRect(-70, -4.2, 132, 8.4, 3);
  ctx.fill();
  ctx.shadowColor = 'transparent';
  ctx.fillStyle = '#d8d8dc';
  ctx.beginPath();
  ctx.moveTo(62, -3);
  ctx.lineTo(72, 0);
  ctx.lineTo(62, 3);
  ctx.fill();
  ctx.restore();
}

function drawMug(ctx: SKRSContext2D, random: Random, x: number, y: number): void {
  ctx.save();
  ctx.translate(x, y);
  ctx.rotate(random.between(0, 6));
  const glaze = random.pick(['#efeae0', '#37566b', '#9c3b2e', '#d8cdb8']);
  ctx.shadowColor = 'rgba(0,0,0,0.55)';
  ctx.shadowBlur = 26;
  ctx.shadowOffsetX = 12;
  ctx.shadowOffsetY = 14;
  ctx.strokeStyle = glaze;
  ctx.lineWidth = 7;
  ctx.beginPath();
  ctx.ellipse(48, 0, 17, 13, 0, 0, 2 * Math.PI);
  ctx.stroke();
  ctx.fillStyle = glaze;
  ctx.beginPath();
  ctx.arc(0, 0, 42, 0, 2 * Math.PI);
  ctx.fill();
  ctx.shadowColor = 'transparent';
  const tea = ctx.createRadialGradient(-8, -8, 4, 0, 0, 38);
  tea.addColorStop(0, '#7a4a22');
  tea.addColorStop(1, '#2c170a');
  ctx.fillStyle = tea;
  ctx.beginPath();
  ctx.arc(0, 0, 37, 0, 2 * Math.PI);
  ctx.fill();
  ctx.strokeStyle = 'rgba(255,255,255,0.5)';
  ctx.lineWidth = 1.2;
  ctx.beginPath();
  ctx.arc(0, 0, 40, 3.6, 5.2);
  ctx.stroke();
  ctx.restore();
}

import { createCanvas, type SKRSContext2D } from '@napi-rs/canvas';
import { createRandom, type Random } from '../random';
import type { Light, Scene } from './scene';

const MAP_MM = 900;
const TEXELS_PER_MM = 1.6;
const SIZE = Math.round(MAP_MM * TEXELS_PER_MM);
const SHARE = Float32Array.from({ length: 256 }, (_, v) => v / 255);

/** How much light reaches each place, relative to full, over the desk; and the colour of the lamp. */
export interface LightMap {
  /** Linear share of full light at a place, 0 to 1. */
  at(xMm: number, yMm: number): number;
  /** Lamp colour left after the camera's white balance, linear, green = 1. */
  readonly colour: readonly [number, number, number];
  /** Direction to the lamp, unit. */
  readonly lamp: readonly [number, number, number];
  /** Strength of the mirror-like highlight, 0 for none. */
  readonly glare: number;
}

export function createLightMap(scene: Scene): LightMap {
  const random = createRandom(scene.seed * 131 + 11);
  const canvas = createCanvas(SIZE, SIZE);
  const ctx = canvas.getContext('2d');
  ctx.fillStyle = '#fff';
  ctx.fillRect(0, 0, SIZE, SIZE);
  ctx.scale(TEXELS_PER_MM, TEXELS_PER_MM);
  ctx.translate(MAP_MM / 2, MAP_MM / 2);
  PAINTERS[scene.light](ctx, random);
  const rgba = ctx.getImageData(0, 0, SIZE, SIZE).data;
  const lean = random.between(0, 2 * Math.PI);
  const height = scene.light === 'warmLamp' ? 0.75 : 0.9;
  const flat = Math.sqrt(1 - height * height);
  return {
    at: (xMm, yMm) => {
      const x = Math.min(SIZE - 1.001, Math.max(0, (xMm + MAP_MM / 2) * TEXELS_PER_MM - 0.5));
      const y = Math.min(SIZE - 1.001, Math.max(0, (yMm + MAP_MM / 2) * TEXELS_PER_MM - 0.5));
      const xi = x | 0;
      const yi = y | 0;
      const fx = x - xi;
      const fy = y - yi;
      const at = (yi * SIZE + xi) * 4;
      const below = at + SIZE * 4;
      return (
        (SHARE[rgba[at]!]! * (1 - fx) + SHARE[rgba[at + 4]!]! * fx) * (1 - fy) +
        (SHARE[rgba[below]!]! * (1 - fx) + SHARE[rgba[below + 4]!]! * fx) * fy
      );
    },
    colour:
      scene.light === 'warmLamp'
        ? [1.18, 1, random.between(0.6, 0.75)]
        : [random.between(0.95, 1.08), 1, random.between(0.9, 1.08)],
    lamp: [Math.cos(lean) * flat, Math.sin(lean) * flat, height],
    glare: scene.light === 'glare' ? random.between(0.5, 0.9) : 0,
  };
}

const slope = (ctx: SKRSContext2D, random: Random, low: number): void => {
  const angle = random.between(0, 2 * Math.PI);
  const gradient = ctx.createLinearGradient(
    -200 * Math.cos(angle),
    -200 * Math.sin(angle),
    200 * Math.cos(angle),
    200 * Math.sin(angle),
  );
  gradient.addColorStop(0, `rgba(0,0,0,${1 - low})`);
  gradient.addColorStop(1, 'rgba(0,0,0,0)');
  ctx.fillStyle = gradient;
  ctx.fillRect(-MAP_MM, -MAP_MM, 2 * MAP_MM, 2 * MAP_MM);
};

const PAINTERS: Record<Light, (ctx: SKRSContext2D, random: Random) => void> = {
  even: (ctx, random) => slope(ctx, random, 0.9),
  gradient: (ctx, random) => slope(ctx, random, random.between(0.35, 0.6)),
  phoneShadow: (ctx, random) => {
    slope(ctx, random, 0.8);
    ctx.filter = `blur(${random.between(0.6, 3) * TEXELS_PER_MM}px)`;
    ctx.fillStyle = `rgba(0,0,0,${random.between(0.35, 0.6)})`;
    const angle = random.between(0, 2 * Math.PI);
    ctx.save();
    ctx.translate(random.between(-60, 60), random.between(-90, 90));
    ctx.rotate(angle);
    ctx.beginPath();
    ctx.roundRect(-45, -90, 90, 180, 12);
    // the hand and the arm that hold it
    ctx.moveTo(45, 10);
    ctx.bezierCurveTo(90, 20, 110, 60, 130, 500);
    ctx.lineTo(30, 500);
    ctx.bezierCurveTo(40, 140, 10, 90, 20, 60);
    ctx.fill();
    ctx.restore();
    ctx.filter = 'none';
  },
  softShadows: (ctx, random) => {
    slope(ctx, random, 0.8);
    for (let i = random.whole(2, 3); i > 0; i--) {
      ctx.filter = `blur(${random.between(18, 45) * TEXELS_PER_MM}px)`;
      ctx.fillStyle = `rgba(0,0,0,${random.between(0.3, 0.55)})`;
      ctx.beginPath();
      ctx.ellipse(
        random.between(-150, 150),
        random.between(-180, 180),
        random.between(40, 120),
        random.between(60, 160),
        random.between(0, 3),
        0,
        2 * Math.PI,
      );
      ctx.fill();
    }
    ctx.filter = 'none';
  },
  warmLamp: (ctx, random) => {
    const x = random.between(-160, 160);
    const y = random.between(-200, 0);
    const pool = ctx.createRadialGradient(x, y, 20, x, y, random.between(330, 480));
    pool.addColorStop(0, 'rgba(0,0,0,0)');
    pool.addColorStop(1, 'rgba(0,0,0,0.72)');
    ctx.fillStyle = pool;
    ctx.fillRect(-MAP_MM, -MAP_MM, 2 * MAP_MM, 2 * MAP_MM);
  },
  dim: (ctx, random) => slope(ctx, random, random.between(0.5, 0.75)),
  glare: (ctx, random) => slope(ctx, random, 0.85),
};

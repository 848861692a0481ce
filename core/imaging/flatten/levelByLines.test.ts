import { createCanvas, type SKRSContext2D } from '@napi-rs/canvas';
import { pixelImageFrom, type PixelImage } from '../raster/pixelImage';
import { wholePicture } from '../geometry/quad';
import { readShape } from './flattenPage';
import { levelByLines } from './levelByLines';
import { photoToPage } from './placeOnPage';

const WIDTH = 840;
const HEIGHT = 1200;
const WHOLE = wholePicture(WIDTH, HEIGHT);

function paper(draw: (ctx: SKRSContext2D) => void): PixelImage {
  const canvas = createCanvas(WIDTH, HEIGHT);
  const ctx = canvas.getContext('2d');
  ctx.fillStyle = '#f4f0e6';
  ctx.fillRect(0, 0, WIDTH, HEIGHT);
  ctx.fillStyle = '#222';
  ctx.strokeStyle = '#557';
  draw(ctx);
  return pixelImageFrom(WIDTH, HEIGHT, 4, new Uint8ClampedArray(ctx.getImageData(0, 0, WIDTH, HEIGHT).data));
}

/** Lines of dashes for words that follow `course`: how far down they lie at a share of the width. */
const written = (course: (u: number, v: number) => number): PixelImage =>
  paper((ctx) => {
    for (let k = 0; k < 30; k++) {
      const v = 0.08 + (0.84 * k) / 30;
      for (let x = 60 + ((k * 13) % 40); x < WIDTH - 60; x++) {
        if ((x + k * 17) % 27 > 21) continue;
        ctx.fillRect(x, v * HEIGHT + course(x / WIDTH, v), 1, 6 + ((x * 7 + k) % 3));
      }
    }
  });

/** How far lines that lie at `course` are from level once laid flat, as a share of the page's height. */
function offLevel(photo: PixelImage, course: (u: number, v: number) => number): number {
  const level = levelByLines(photo, WHOLE, null)!;
  const shape = readShape(level.corners, photo, level);
  const toPage = photoToPage(shape);
  const off = [0.2, 0.4, 0.6, 0.8].flatMap((v) => {
    const ys = Array.from({ length: 9 }, (_, i) => {
      const u = 0.1 + i * 0.1;
      return toPage({ x: u * WIDTH, y: v * HEIGHT + course(u, v) }).y;
    });
    return Math.max(...ys) - Math.min(...ys);
  });
  return Math.max(...off);
}

describe('levelByLines', () => {
  it('straightens lines of writing that sag towards the foot', () => {
    // by 2 % of the page's height at its foot
    const course = (u: number, v: number): number => 24 * v * 4 * u * (1 - u);
    expect(offLevel(written(course), course)).toBeLessThan(0.007);
  });

  it('turns a page whose lines all tilt', () => {
    const course = (u: number): number => (u - 0.5) * WIDTH * 0.05;
    const photo = written(course);
    expect(offLevel(photo, course)).toBeLessThan(0.004);
    const { corners } = levelByLines(photo, WHOLE, null)!;
    expect((corners[1].y - corners[0].y) / (corners[1].x - corners[0].x)).toBeCloseTo(0.05, 2);
  });

  it('straightens squared paper in perspective, both ways', () => {
    const at = (u: number, v: number): { x: number; y: number } => {
      const far = 1 + 0.25 * v;
      return { x: WIDTH * (0.5 + ((u - 0.5) * 1.35) / far), y: (HEIGHT * v * 1.25) / far };
    };
    const photo = paper((ctx) => {
      for (let k = -10; k <= 50; k++) {
        for (const [p, q] of [
          [at(k / 40, -0.2), at(k / 40, 1.3)],
          [at(-0.3, k / 40), at(1.3, k / 40)],
        ] as const) {
          ctx.beginPath();
          ctx.moveTo(p.x, p.y);
          ctx.lineTo(q.x, q.y);
          ctx.stroke();
        }
      }
    });
    const level = levelByLines(photo, WHOLE, null)!;
    const toPage = photoToPage(readShape(level.corners, photo, level));
    for (const u of [0.3, 0.5, 0.7]) {
      const xs = [0.2, 0.5, 0.8].map((v) => toPage(at(u, v)).x);
      expect(Math.max(...xs) - Math.min(...xs)).toBeLessThan(0.006);
    }
  });

  it('leaves level lines alone, and pages without lines', () => {
    expect(
      levelByLines(
        written(() => 0),
        WHOLE,
        null,
      ),
    ).toBeNull();
    expect(
      levelByLines(
        paper(() => undefined),
        WHOLE,
        null,
      ),
    ).toBeNull();
  });

  it('leaves curves alone that are drawn on a page', () => {
    const drawn = paper((ctx) => {
      for (let k = 0; k < 20; k++) {
        ctx.beginPath();
        for (let x = 60; x < WIDTH - 60; x++)
          ctx.lineTo(x, 120 + k * 48 + 14 * Math.sin(x / 70 + (k % 3)) + (k % 2) * (x / 40));
        ctx.stroke();
      }
    });
    expect(levelByLines(drawn, WHOLE, null)).toBeNull();
  });
});

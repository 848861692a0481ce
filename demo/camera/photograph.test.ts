import sharp from 'sharp';
import { createScene, LIGHTS, SHAPES } from './scene';
import { photograph } from './photograph';
import { encodePhotograph, truthOf } from './savePhotograph';

const SMALL = { widthPx: 300, heightPx: 400, blurPx: 0.5, motionPx: 0, tiltRad: 0.3, fill: 0.8 } as const;

describe('the camera simulator', () => {
  it('takes the same photo for the same scene, and another for another seed', () => {
    const scene = createScene(71, { camera: SMALL });
    const once = photograph(scene);
    expect(Buffer.from(photograph(scene).image.data).equals(Buffer.from(once.image.data))).toBe(true);
    expect(
      Buffer.from(photograph(createScene(72, { camera: SMALL })).image.data).equals(Buffer.from(once.image.data)),
    ).not.toBe(true);
  });

  it.each(SHAPES)('knows where a %s sheet is: paper inside its boundary, desk outside', (kind) => {
    const photo = photograph(
      createScene(73, {
        camera: { ...SMALL, noise: 0.002 },
        desk: 'slate',
        light: 'even',
        shape: { kind, amount: 0.8 },
        page: { kind: 'botany', size: 'a4' },
        thumb: false,
        underSheet: false,
        offCentre: { x: 0, y: 0 },
      }),
    );
    const centre = { x: 0, y: 0 };
    for (const p of photo.boundary) {
      centre.x += p.x / photo.boundary.length;
      centre.y += p.y / photo.boundary.length;
    }
    const lightness = (x: number, y: number): number =>
      photo.image.data[(Math.round(y) * photo.image.width + Math.round(x)) * 3 + 1]!;
    let inside = 0;
    let outside = 0;
    for (const p of photo.boundary) {
      inside += lightness(p.x + (centre.x - p.x) * 0.05, p.y + (centre.y - p.y) * 0.05);
      outside += lightness(p.x - (centre.x - p.x) * 0.05, p.y - (centre.y - p.y) * 0.05);
    }
    expect(inside / photo.boundary.length).toBeGreaterThan(150);
    expect(outside / photo.boundary.length).toBeLessThan(110);
  });

  it.each(LIGHTS)('exposes %s so that the page can be read', (light) => {
    const { image } = photograph(createScene(74, { camera: SMALL, light, desk: 'wood' }));
    const sorted = [...image.data].sort((a, b) => a - b);
    expect(sorted[Math.floor(sorted.length * 0.95)]).toBeGreaterThan(120);
  });

  it('stores the picture turned as phones do, and the truth as it is seen', async () => {
    const photo = photograph(createScene(75, { camera: SMALL, exifOrientation: 6 }));
    const bytes = await encodePhotograph(photo);
    const stored = await sharp(bytes).metadata();
    expect([stored.orientation, stored.width, stored.height]).toEqual([6, 400, 300]);
    const seen = await sharp(bytes).autoOrient().raw().toBuffer({ resolveWithObject: true });
    expect([seen.info.width, seen.info.height]).toEqual([300, 400]);
    const difference = seen.data.reduce((sum, v, i) => sum + Math.abs(v - photo.image.data[i]!), 0) / seen.data.length;
    expect(difference).toBeLessThan(6);
    expect(truthOf(photo)).toMatchObject({ width: 300, height: 400, pageWidthMm: photo.page.widthMm });
  });
});

import { createScene, type Scene } from '../../../demo/camera/scene';
import { photograph, type Photograph } from '../../../demo/camera/photograph';
import { scoredScenes } from '../../../demo/sceneSets';
import { mostBent, quartersOf } from '../geometry/bentOutline';
import { pageJaccard } from '../geometry/jaccard';
import { polygonArea } from '../geometry/quad';
import type { PixelImage } from '../raster/pixelImage';
import { resizeByArea } from '../raster/resizeByArea';
import { detectOutline, proposeOutlines } from './detectOutline';

const SMALL = { widthPx: 900, heightPx: 1200, radial: 0, blurPx: 0.5, motionPx: 0 } as const;
const LEVEL = { ...SMALL, tiltRad: 0.15, fill: 0.8 } as const;
const plain = { shape: { kind: 'flat' }, thumb: false, underSheet: false, offCentre: { x: 0, y: 0 } } as const;
const take = (seed: number, patch: Parameters<typeof createScene>[1]): Photograph =>
  photograph(createScene(seed, { ...plain, camera: LEVEL, ...patch }));
const score = (photo: Photograph): number => {
  const found = detectOutline(photo.image);
  return found === null ? 0 : pageJaccard(found.quad, photo.corners, photo.page.widthMm / photo.page.heightMm);
};

describe('detectOutline', () => {
  const cases: [
    string,
    Partial<Pick<Scene, 'desk' | 'light' | 'thumb' | 'headingRad'>> & { camera?: Partial<Scene['camera']> },
  ][] = [
    ['on dark wood', { desk: 'wood', light: 'even' }],
    ['on a pale desk', { desk: 'pale', light: 'gradient' }],
    ['on patterned cloth', { desk: 'cloth', light: 'even' }],
    ['under a hard shadow', { desk: 'slate', light: 'phoneShadow' }],
    ['with a thumb over one side', { desk: 'wood', light: 'even', thumb: true }],
    ['in dim, noisy light', { desk: 'wood', light: 'dim', camera: { noise: 0.05 } }],
    ['turned by 40 degrees', { desk: 'slate', light: 'even', headingRad: 0.7 }],
    ['tilted by 35 degrees', { desk: 'wood', light: 'even', camera: { tiltRad: 0.61, fill: 0.7 } }],
  ];
  it.each(cases)('finds the paper %s', (_name, { camera, ...patch }) => {
    const jaccard = score(
      take(9100, { ...patch, page: { kind: 'calculation', size: 'a4', seed: 3 }, camera: { ...LEVEL, ...camera } }),
    );
    expect(jaccard).toBeGreaterThan(0.95);
  });

  it('takes a rival that its edges make likelier than the best by score', () => {
    const { scene } = scoredScenes(41000, 135, 0.5)[134]!;
    expect(score(photograph(scene))).toBeGreaterThan(0.97);
  });

  it('gives the scaled outline for the scaled photo', () => {
    const { image } = take(9101, { desk: 'wood', light: 'even', page: { kind: 'notes', size: 'a4' } });
    const half = detectOutline(resizeByArea(image, 450, 600))!;
    detectOutline(image)!.quad.forEach((corner, i) => {
      expect(Math.hypot(corner.x / 2 - half.quad[i]!.x, corner.y / 2 - half.quad[i]!.y)).toBeLessThan(3);
    });
  });

  it('follows curved sides and says where they run', () => {
    const bowed = take(9102, {
      desk: 'slate',
      light: 'even',
      shape: { kind: 'bowed', amount: 0.6 },
      headingRad: 0,
      page: { kind: 'notes', size: 'a4' },
      camera: { ...LEVEL, tiltRad: 0.45, azimuthRad: Math.PI / 2 },
    });
    const found = detectOutline(bowed.image)!;
    expect(mostBent(found.bends)).toBeGreaterThan(0.01);
    expect(score(bowed)).toBeGreaterThan(0.93);
  });

  it('finds a strongly bowed sheet’s own corners, not those of the lines through its arch', () => {
    const bowed = take(9501, {
      desk: 'wood',
      light: 'even',
      shape: { kind: 'bowed', amount: 0.9 },
      headingRad: 0.02,
      page: { kind: 'calculation', size: 'a4', seed: 5 },
      camera: { ...LEVEL, tiltRad: 0.35, azimuthRad: Math.PI / 2 },
    });
    const { quad, bends } = detectOutline(bowed.image)!;
    quad.forEach((corner, i) =>
      expect(Math.hypot(corner.x - bowed.corners[i]!.x, corner.y - bowed.corners[i]!.y)).toBeLessThan(6),
    );
    expect(quartersOf(bends[0])[1]).toBeGreaterThan(0.05);
  });

  it('asks its person to look where the page runs out of the picture on two sides', () => {
    const cut = take(9106, {
      desk: 'wood',
      light: 'even',
      headingRad: 0.03,
      page: { kind: 'notes', size: 'a4' },
      offCentre: { x: 0.3, y: 0.25 },
    });
    const { image } = cut;
    const out = cut.corners.filter((p) => p.x < 0 || p.y < 0 || p.x > image.width || p.y > image.height);
    expect(out.length).toBeGreaterThanOrEqual(3);
    const { quad, confidence } = detectOutline(image)!;
    expect(confidence).toBeLessThan(0.8);
    // what is in the picture is kept: the visible corner, and the picture's own
    const [seen] = cut.corners.filter((p) => !out.includes(p));
    expect(Math.min(...quad.map((p) => Math.hypot(p.x - seen!.x, p.y - seen!.y)))).toBeLessThan(8);
    expect(pageJaccard(quad, cut.corners, cut.page.widthMm / cut.page.heightMm)).toBeGreaterThan(0.4);
  });

  it('gives the same outline however dim the picture is', () => {
    const { image } = take(9105, { desk: 'wood', light: 'even', page: { kind: 'notes', size: 'a4' } });
    const dim = { ...image, data: image.data.map((v) => Math.round(v * 0.2)) };
    const light = detectOutline(image)!;
    const dark = detectOutline(dim)!;
    light.quad.forEach((corner, i) =>
      expect(Math.hypot(corner.x - dark.quad[i]!.x, corner.y - dark.quad[i]!.y)).toBeLessThan(3),
    );
    expect(dark.confidence).toBeGreaterThan(0.6);
  });

  it('offers a hand the outline found and others near it to stick to', () => {
    const { image } = take(9106, { desk: 'wood', light: 'even', page: { kind: 'printed', size: 'a4' } });
    const { found, targets } = proposeOutlines(image);
    expect(found).toEqual(detectOutline(image));
    expect(targets[0]).toEqual(found!.quad);
    expect(targets.length).toBeGreaterThan(2);
    expect(targets.flat().every((p) => Number.isFinite(p.x) && Number.isFinite(p.y))).toBe(true);
  });

  it('works alike on a subarray, on RGBA, and never alters its input', () => {
    const { image } = take(9103, { desk: 'wood', light: 'even' });
    const before = image.data.slice();
    const plainResult = detectOutline(image);
    expect(Buffer.from(image.data).equals(Buffer.from(before))).toBe(true);
    const buffer = new ArrayBuffer(image.data.length + 64);
    const shifted = new Uint8ClampedArray(buffer, 64, image.data.length);
    shifted.set(image.data);
    expect(detectOutline({ ...image, data: shifted })).toEqual(plainResult);
    const rgba = new Uint8ClampedArray((image.data.length / 3) * 4);
    for (let i = 0; i < image.data.length / 3; i++)
      rgba.set([image.data[i * 3]!, image.data[i * 3 + 1]!, image.data[i * 3 + 2]!, 255], i * 4);
    expect(detectOutline({ ...image, channels: 4, data: rgba })?.quad).toEqual(plainResult?.quad);
  });

  it('does not claim to be sure of a page on an empty desk or in a blank picture', () => {
    const desk = take(9104, { desk: 'wood', light: 'even', offCentre: { x: 4, y: 4 } });
    expect(detectOutline(desk.image)?.confidence ?? 0).toBeLessThan(0.7);
    const blank: PixelImage = { width: 300, height: 400, channels: 3, data: new Uint8ClampedArray(360_000).fill(200) };
    expect(detectOutline(blank)?.confidence ?? 0).toBeLessThan(0.7);
  });

  it('takes the whole picture when a page fills it, rather than its block of print', () => {
    const data = new Uint8ClampedArray(450 * 600 * 3).fill(226);
    for (let y = 60; y < 540; y++)
      for (let x = 50; x < 400; x++)
        if (y % 12 < 7 && x % 9 < 6) data.fill(60, (y * 450 + x) * 3, (y * 450 + x) * 3 + 3);
    const found = detectOutline({ width: 450, height: 600, channels: 3, data });
    expect(found?.confidence ?? 0).toBeLessThan(0.7);
    if (found !== null)
      expect(found.quad).toEqual([
        { x: 0, y: 0 },
        { x: 450, y: 0 },
        { x: 450, y: 600 },
        { x: 0, y: 600 },
      ]);
  });

  it.each(['notes', 'log', 'curve', 'printed', 'botany'] as const)(
    'cuts nothing off a %s page shot from so near that no desk is seen',
    (kind) => {
      const near = take(9107, {
        desk: 'wood',
        light: 'gradient',
        headingRad: 0.05,
        page: { kind, size: 'a4', seed: 4 },
        camera: { ...LEVEL, tiltRad: 0.05, fill: 1.7 },
      });
      for (const { x, y } of near.corners)
        expect(x < 0 || x > near.image.width || y < 0 || y > near.image.height).toBe(true);
      const { quad, confidence } = detectOutline(near.image)!;
      expect(confidence).toBeLessThanOrEqual(0.5);
      expect(polygonArea(quad)).toBeGreaterThan(0.97 * near.image.width * near.image.height);
    },
  );

  it('takes tiny and very long pictures without falling over', () => {
    for (const [width, height] of [
      [12, 9],
      [2000, 30],
      [3, 700],
    ] as const) {
      const image: PixelImage = {
        width,
        height,
        channels: 1,
        data: Uint8ClampedArray.from({ length: width * height }, (_, i) => (i * 31) % 256),
      };
      expect(() => detectOutline(image)).not.toThrow();
    }
  });
});

import { createScene } from '../../../demo/camera/scene';
import { photograph } from '../../../demo/camera/photograph';
import { mapQuad, scaleQuad, turnQuad, wholePicture } from '../geometry/quad';
import { resizeByArea } from '../raster/resizeByArea';
import { estimateMotionBlur } from '../motion-blur/estimateMotionBlur';
import { inspectShot, SHOT_LIMITS } from './inspectShot';

const shoot = (patch: Parameters<typeof createScene>[1] = {}) =>
  photograph(
    createScene(9440, {
      page: { kind: 'calculation', size: 'a4', seed: 6 },
      desk: 'wood',
      light: 'gradient',
      shape: { kind: 'flat' },
      thumb: false,
      underSheet: false,
      offCentre: { x: 0, y: 0 },
      headingRad: 0.04,
      ...patch,
      camera: {
        widthPx: 1350,
        heightPx: 1800,
        tiltRad: 0.15,
        fill: 0.86,
        blurPx: 0.6,
        motionPx: 0,
        noise: 0.006,
        ...patch.camera,
      },
    }),
  );
const PLAIN = { longSideMm: 297, motionBlur: null } as const;
const inspect = ({ image, corners }: ReturnType<typeof shoot>) =>
  inspectShot(image, corners, {
    ...PLAIN,
    motionBlur: estimateMotionBlur(image, corners),
  });

describe('looking at a shot', () => {
  const good = shoot();

  it('finds nothing wrong with a good one, and knows its dots per inch', () => {
    const verdict = inspect(good);
    expect(verdict.findings).toEqual([]);
    expect(verdict.effectiveDpi).toBeGreaterThan(110);
    expect(verdict.effectiveDpi).toBeLessThan(150);
  });

  it('names blur, and measures more of it the more there is', () => {
    const [sharp, soft, blurred] = [good, shoot({ camera: { blurPx: 1.5 } }), shoot({ camera: { blurPx: 3 } })].map(
      inspect,
    );
    expect(soft!.edgeWidthMm).toBeGreaterThan(sharp!.edgeWidthMm! * 1.2);
    expect(blurred!.edgeWidthMm).toBeGreaterThan(soft!.edgeWidthMm! * 1.2);
    expect(blurred!.findings).toContain('blurred');
  });

  it('names a hand that slipped, and takes lens blur for no slip', () => {
    const slipped = inspect(shoot({ camera: { motionPx: 8, motionRad: 0 } }));
    expect(slipped.slipped).toBe(true);
    expect(slipped.findings).toContain('blurred');
    expect(inspect(shoot({ camera: { blurPx: 1.2 } })).slipped).toBe(false);
  });

  it('takes sharp print, with all its uprights, for no slip', () => {
    const verdict = inspect(shoot({ page: { kind: 'printed', size: 'a4', seed: 17 } }));
    expect(verdict.slipped).toBe(false);
    expect(verdict.findings).toEqual([]);
  });

  it('does not take noise for sharpness', () => {
    const blurred = (noise: number): number | null =>
      inspect(shoot({ light: 'dim', camera: { noise, blurPx: 3.5 } })).edgeWidthMm;
    expect(blurred(0.012)).toBeGreaterThan(0.45);
    // where noise hides every edge nothing is told
    expect(blurred(0.05)).toBeNull();
  });

  it.each([401, 9441])('sees a finger that reaches in (scene %i), and none where there is none', (seed) => {
    const scene = (thumb: boolean) =>
      photograph(
        createScene(seed, {
          page: { kind: 'log', size: 'a4', seed },
          desk: 'slate',
          light: 'warmLamp',
          shape: { kind: 'flat' },
          thumb,
          underSheet: false,
          offCentre: { x: 0, y: 0 },
          headingRad: 0,
          camera: { widthPx: 900, heightPx: 1200, tiltRad: 0.1, fill: 0.8, blurPx: 0.6, motionPx: 0 },
        }),
      );
    expect(inspect(scene(true)).findings).toContain('thumb');
    expect(inspect(scene(false)).findings).not.toContain('thumb');
  });

  it('says that it was dark: by paper far below white, and by noise', () => {
    expect(inspect(shoot({ light: 'dim', camera: { noise: 0.045 } })).findings).toContain('dark');
    const { image, corners } = good;
    const dimmed = { ...image, data: image.data.map((level) => 0.5 * level) };
    expect(inspectShot(dimmed, corners, PLAIN).findings).toContain('dark');
  });

  it('names the side that is cut off', () => {
    const photo = good;
    const cut = photo.corners.map((p, i) =>
      i === 1 || i === 2 ? { ...p, x: photo.image.width } : p,
    ) as unknown as typeof photo.corners;
    expect(inspectShot(photo.image, cut, PLAIN).cutSides).toEqual([false, true, false, false]);
    // a page that fills its photo is not cut
    const { width, height } = photo.image;
    const whole = turnQuad(wholePicture(width, height), 1);
    expect(inspectShot(photo.image, whole, PLAIN).findings).not.toContain('cut');
    // nor where it was laid level by its lines, and its corners are a little beside the photo's
    const levelled = mapQuad(whole, ({ x, y }) => ({ x: x + 0.02 * (y - height / 2), y: y - 0.02 * (x - width / 2) }));
    expect(inspectShot(photo.image, levelled, PLAIN).findings).not.toContain('cut');
  });

  it('says when too few pixels are left to read', () => {
    const photo = good;
    const small = resizeByArea(photo.image, 540, 720);
    const { findings, edgeWidthMm } = inspectShot(small, scaleQuad(photo.corners, 0.4), PLAIN);
    expect(findings).toContain('lowDetail');
    // its edges are wide on the paper, and as sharp as so few pixels can be
    expect(edgeWidthMm).toBeGreaterThan(SHOT_LIMITS.edgeWidthMm);
    expect(findings).not.toContain('blurred');
  });
});

import { createScene, type ScenePatch } from '../../../demo/camera/scene';
import { photograph } from '../../../demo/camera/photograph';
import { startRecipes } from '../../work/intake/startRecipe';
import { shapeOf } from '../../work/render/renderPage';
import { findGlare } from '../quality/glare';
import type { PixelImage } from '../raster/pixelImage';
import { fillGlare } from './fillGlare';
import type { PageInPhoto } from './secondView';

/** A page on which writing goes right across, shot from so far to the side. */
const shoot = (tiltRad: number, azimuthRad: number, patch: ScenePatch = {}): PixelImage =>
  photograph(
    createScene(2007, {
      desk: 'wood',
      light: 'glare',
      page: { kind: 'printed', size: 'a4', seed: 3 },
      shape: { kind: 'crease', amount: 0.4 },
      thumb: false,
      underSheet: false,
      headingRad: 0.05,
      offCentre: { x: 0, y: 0 },
      camera: {
        widthPx: 900,
        heightPx: 1200,
        tiltRad,
        azimuthRad,
        blurPx: 0.6,
        motionPx: 0,
        noise: 0.006,
        fill: 0.86,
        radial: 0.01,
      },
      ...patch,
    }),
  ).image;

function pageIn(photo: PixelImage, quarterTurns: 0 | 1 | 2 | 3 = 0): PageInPhoto {
  const [recipe] = startRecipes(photo, { finish: 'daylight', kind: 'sheet', focalRatio: null });
  return { photo, shape: shapeOf(photo, { ...recipe, quarterTurns }) };
}

const first = pageIn(shoot(0.12, 1));
const truth = shoot(0.12, 1, { light: 'even' });
const fromTheSide = pageIn(shoot(0.35, 3.5));

/** How dark the truth's ink is that the first shows paler by a third or more: 1 is as dark, against its own paper. */
function darknessUnderGlare(photo: PixelImage): number {
  const depth = ({ data }: PixelImage, at: number): number =>
    1 - data[at + 1]! / Math.max(data[at + 61]!, data[at - 59]!);
  let [sum, count] = [0, 0];
  for (let y = 100; y < 1100; y++)
    for (let x = 100; x < 800; x++) {
      const at = (y * 900 + x) * 3;
      const own = depth(truth, at);
      if (own < 0.4 || depth(first.photo, at) > (2 / 3) * own || first.photo.data[at - 59]! < 200) continue;
      sum += Math.min(1.2, depth(photo, at) / own);
      count++;
    }
  expect(count).toBeGreaterThan(100);
  return sum / count;
}

describe('filling a reflection from a second photo', () => {
  const filled = fillGlare(first, fromTheSide)!;

  it('brings ink under it back to its darkness, and leaves no reflection', () => {
    expect(findGlare(first.photo, first.shape.corners)).not.toBeNull();
    expect(darknessUnderGlare(first.photo)).toBeLessThan(0.55);
    expect(darknessUnderGlare(filled.photo)).toBeGreaterThan(0.85);
    expect(findGlare(filled.photo, first.shape.corners)).toBeNull();
    expect(filled.filledShare).toBeGreaterThan(0.03);
  });

  it('touches nothing else', () => {
    const { data } = first.photo;
    let changed = 0;
    for (let at = 0; at < data.length; at += 3) if (Math.abs(data[at + 1]! - filled.photo.data[at + 1]!) > 2) changed++;
    expect(changed / (data.length / 3)).toBeLessThan(2 * filled.filledShare);
  });

  it('takes the same from a second photo that was shot upside down, once that is said', () => {
    const { width, height, channels, data } = fromTheSide.photo;
    const turned = { width, height, channels, data: new Uint8ClampedArray(data.length) };
    for (let from = 0; from < data.length; from += 3)
      for (let c = 0; c < 3; c++) turned.data[data.length - 3 - from + c] = data[from + c]!;
    expect(fillGlare(first, pageIn(turned))).toBeNull();
    expect(fillGlare(first, pageIn(turned, 2))!.filledShare).toBeCloseTo(filled.filledShare, 1);
  });

  it('takes nothing from another page, nor from a photo with the same reflection', () => {
    const other = shoot(0.35, 3.5, { page: { kind: 'printed', size: 'a4', seed: 8 } });
    expect(fillGlare(first, pageIn(other))).toBeNull();
    expect(fillGlare(first, first)).toMatchObject({ filledShare: 0 });
  });
});

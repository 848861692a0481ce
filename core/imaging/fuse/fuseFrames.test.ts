import { createScene } from '../../../demo/camera/scene';
import { photograph } from '../../../demo/camera/photograph';
import type { PixelImage } from '../raster/pixelImage';
import { fuseFrames } from './fuseFrames';

/** Hand-held frames of one page in dim light: each from a slightly other place, each with its own noise. */
const frame = (shot: number, { noise = 0.045, thumb = false, blurPx = 0.6 } = {}): PixelImage =>
  photograph(
    createScene(77, {
      page: { kind: 'calculation', size: 'a4', seed: 5 },
      desk: 'wood',
      light: 'dim',
      shape: { kind: 'flat' },
      thumb,
      underSheet: false,
      shot,
      headingRad: 0.05 + 0.004 * Math.sin(shot * 3.1),
      offCentre: { x: 0.006 * Math.sin(shot * 1.7), y: 0.006 * Math.cos(shot * 2.3) },
      camera: {
        widthPx: 600,
        heightPx: 800,
        tiltRad: 0.2 + 0.006 * Math.sin(shot),
        azimuthRad: 1,
        blurPx,
        motionPx: 0,
        noise,
        fill: 0.9,
        radial: 0.01,
      },
    }),
  ).image;

const MARGIN = 30;
function eachInside(image: PixelImage, look: (at: number) => void): void {
  for (let y = MARGIN; y < image.height - MARGIN; y++)
    for (let x = MARGIN; x < image.width - MARGIN; x++) look((y * image.width + x) * 3);
}
function decibels(image: PixelImage, truth: PixelImage): number {
  let sum = 0;
  let count = 0;
  eachInside(image, (at) => {
    for (let c = 0; c < 3; c++) sum += (image.data[at + c]! - truth.data[at + c]!) ** 2;
    count += 3;
  });
  return 10 * Math.log10(255 ** 2 / (sum / count));
}
/** How steep the truth's edges still are: 1 is as steep as in truth. */
function steepness(image: PixelImage, truth: PixelImage): number {
  let sum = 0;
  let whole = 0;
  eachInside(image, (at) => {
    const slope = truth.data[at + 4]! - truth.data[at - 2]!;
    if (Math.abs(slope) < 40) return;
    sum += (image.data[at + 4]! - image.data[at - 2]!) * Math.sign(slope);
    whole += Math.abs(slope);
  });
  return sum / whole;
}

describe('merging frames', () => {
  const frames = [0, 1, 2, 3, 4, 5].map((shot) => frame(shot));

  it('gains at least 4 dB over the single frame and is no less sharp', () => {
    const { image, reference, used } = fuseFrames(frames);
    const truth = frame(reference, { noise: 0 });
    expect(used).toBeGreaterThanOrEqual(4);
    expect(decibels(image, truth) - decibels(frames[reference]!, truth)).toBeGreaterThan(4);
    expect(steepness(image, truth)).toBeGreaterThan(0.985);
  });

  it('leaves out what moved: a finger in one frame does not show through', () => {
    const { image, reference, movedShare } = fuseFrames(
      frames.map((f, shot) => (shot === 3 ? frame(3, { thumb: true }) : f)),
    );
    const truth = frame(reference, { noise: 0 });
    expect(reference).not.toBe(3);
    expect(movedShare).toBeGreaterThan(0.002);
    expect(decibels(image, truth) - decibels(frames[reference]!, truth)).toBeGreaterThan(4);
    let ghost = 0;
    eachInside(image, (at) => (ghost = Math.max(ghost, truth.data[at + 2]! - image.data[at + 2]!)));
    let noiseOnly = 0;
    eachInside(
      image,
      (at) => (noiseOnly = Math.max(noiseOnly, truth.data[at + 2]! - frames[reference]!.data[at + 2]!)),
    );
    expect(ghost).toBeLessThanOrEqual(noiseOnly);
  });

  it('leaves out frames that are blurred, and gives a single frame back as it is', () => {
    expect(fuseFrames([frames[0]!, frame(1, { blurPx: 2.5 }), frames[2]!]).used).toBe(2);
    expect(fuseFrames([frames[0]!]).image.data).toEqual(frames[0]!.data);
  });

  it('does not mix frames of different pages', () => {
    const other = photograph(
      createScene(80, {
        page: { kind: 'botany', size: 'a4', seed: 9 },
        desk: 'cloth',
        shape: { kind: 'flat' },
        camera: { widthPx: 600, heightPx: 800 },
      }),
    ).image;
    const { used } = fuseFrames([frames[0]!, other]);
    expect(used).toBe(1);
  });
});

import { fuseFrames } from '../core/imaging/fuse/fuseFrames';
import type { PixelImage } from '../core/imaging/raster/pixelImage';
import type { PageKind } from '../demo/artist/drawPage';
import { createScene } from '../demo/camera/scene';
import { photograph } from '../demo/camera/photograph';
import { mean } from './statistics';

const FRAMES = 6;
const SIZE = { widthPx: 900, heightPx: 1200 };
const MARGIN = 30;
const KINDS: readonly PageKind[] = ['calculation', 'botany', 'printed', 'log', 'knot'];

/** One hand-held frame in dim light; its place and its noise differ from shot to shot. */
const frame = (kind: PageKind, seed: number, shot: number, noise: number): PixelImage =>
  photograph(
    createScene(seed, {
      page: { kind, size: 'a4', seed },
      light: 'dim',
      shape: { kind: 'flat' },
      thumb: false,
      underSheet: false,
      desk: 'wood',
      shot,
      headingRad: 0.05 + 0.004 * Math.sin(shot * 3.1),
      offCentre: { x: 0.006 * Math.sin(shot * 1.7), y: 0.006 * Math.cos(shot * 2.3) },
      camera: {
        ...SIZE,
        tiltRad: 0.2 + 0.006 * Math.sin(shot),
        azimuthRad: 1,
        blurPx: 0.7,
        motionPx: 0,
        noise,
        fill: 0.9,
        radial: 0.01,
      },
    }),
  ).image;

function compare(image: PixelImage, truth: PixelImage): { decibels: number; steepness: number } {
  let squares = 0;
  let count = 0;
  let slope = 0;
  let whole = 0;
  for (let y = MARGIN; y < image.height - MARGIN; y++) {
    for (let x = MARGIN; x < image.width - MARGIN; x++) {
      const at = (y * image.width + x) * 3 + 1;
      squares += (image.data[at]! - truth.data[at]!) ** 2;
      count++;
      const step = truth.data[at + 3]! - truth.data[at - 3]!;
      if (Math.abs(step) < 40) continue;
      slope += (image.data[at + 3]! - image.data[at - 3]!) * Math.sign(step);
      whole += Math.abs(step);
    }
  }
  return { decibels: 10 * Math.log10(255 ** 2 / (squares / count)), steepness: slope / whole };
}

/** What merging frames gains over the single one, against the same scene without noise. */
export function benchDim(): void {
  const rows = KINDS.map((kind, i) => {
    const frames = Array.from({ length: FRAMES }, (_, shot) => frame(kind, 80 + i, shot, 0.05));
    const { image, reference, used } = fuseFrames(frames);
    const truth = frame(kind, 80 + i, reference, 0);
    const single = compare(frames[reference]!, truth);
    const merged = compare(image, truth);
    return {
      page: kind,
      'frames used': used,
      gain: merged.decibels - single.decibels,
      sharpness: merged.steepness / single.steepness,
    };
  });
  console.log(`\n${FRAMES} frames in dim light merged into one`);
  console.table(
    rows.map((row) => ({ ...row, gain: `${row.gain.toFixed(1)} dB`, sharpness: row.sharpness.toFixed(3) })),
  );
  console.log(`Mean gain ${mean(rows.map(({ gain }) => gain)).toFixed(1)} dB.`);
}

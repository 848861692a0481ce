import { itInWorkspace } from '../kernels/itInWorkspace';
import { polygonArea } from '../geometry/quad';
import { createScene } from '../../../demo/camera/scene';
import { photograph } from '../../../demo/camera/photograph';
import type { PixelImage } from '../raster/pixelImage';
import { createPixelImage } from '../raster/pixelImage';
import { toColourPicture } from './colourPicture';
import { edgeProbability, segmentPage, pageProbability, type PageSegmentation } from './pageNetwork';

const { it, ws } = itInWorkspace();

const PICTURE = { width: 400, height: 300 };

const small: PageSegmentation = {
  width: 4,
  height: 3,
  page: Float32Array.from({ length: 12 }, (_, i) => i / 12),
  pageArea: 5.5,
  edge: Float32Array.from({ length: 12 }, (_, i) => (i % 4) / 4),
};

describe('the segmentation', () => {
  it('is read by place, whatever the size of the picture it speaks of', () => {
    expect(pageProbability(small, { x: 0, y: 0 }, PICTURE)).toBe(0);
    expect(pageProbability(small, { x: 399, y: 299 }, PICTURE)).toBeCloseTo(11 / 12, 6);
    expect(pageProbability(small, { x: 150, y: 150 }, PICTURE)).toBeCloseTo(5 / 12, 6);
  });

  it('says nothing of places outside the picture', () => {
    for (const [x, y] of [
      [-1, 10],
      [10, -1],
      [400, 10],
      [10, 300],
    ] as const)
      expect(pageProbability(small, { x, y }, PICTURE)).toBeNull();
  });

  it('has an edge between its places, too, and the last one beyond its border', () => {
    expect(edgeProbability(small, { x: 150, y: 150 }, PICTURE)).toBeCloseTo(0.25, 3);
    expect(edgeProbability(small, { x: 200, y: 150 }, PICTURE)).toBeCloseTo(0.375, 3);
    expect(edgeProbability(small, { x: -80, y: 150 }, PICTURE)).toBeCloseTo(0, 3);
    expect(edgeProbability(small, { x: 900, y: 150 }, PICTURE)).toBeCloseTo(0.75, 2);
  });
});

describe('segmentPage', () => {
  const shot = photograph(
    createScene(9301, {
      desk: 'wood',
      light: 'even',
      shape: { kind: 'flat' },
      thumb: false,
      underSheet: false,
      offCentre: { x: 0, y: 0 },
      headingRad: 0.1,
      page: { kind: 'notes', size: 'a4' },
      camera: { widthPx: 450, heightPx: 600, tiltRad: 0.2, fill: 0.75, radial: 0, blurPx: 0.3, motionPx: 0 },
    }),
  );
  const overlapOf = (
    map: PageSegmentation,
    corners: readonly { x: number; y: number }[],
    width: number,
    height: number,
  ): number => {
    let [both, either] = [0, 0];
    for (let y = 2; y < height; y += 4) {
      for (let x = 2; x < width; x += 4) {
        const truth = corners.every((a, i) => {
          const b = corners[(i + 1) % 4]!;
          return (b.x - a.x) * (y - a.y) - (b.y - a.y) * (x - a.x) >= 0;
        });
        const said = pageProbability(map, { x, y }, { width, height })! > 0.5;
        if (truth && said) both++;
        if (truth || said) either++;
      }
    }
    return both / either;
  };

  it('covers the page and hardly anything else, and sees its edge where it ends', () => {
    const { image, corners } = shot;
    const map = segmentPage(toColourPicture(image, ws()));
    expect(overlapOf(map, corners, image.width, image.height)).toBeGreaterThan(0.93);
    const middle = { x: (corners[0].x + corners[1].x) / 2, y: (corners[0].y + corners[1].y) / 2 };
    expect(edgeProbability(map, middle, image)).toBeGreaterThan(0.6);
    expect(edgeProbability(map, { x: 225, y: 300 }, image)).toBeLessThan(0.3);
    const share = map.pageArea / (map.width * map.height);
    expect(Math.abs(share / (polygonArea(corners) / (image.width * image.height)) - 1)).toBeLessThan(0.07);
  });

  it('says the same of the picture on its side', () => {
    const { image, corners } = shot;
    const lying: PixelImage = createPixelImage(image.height, image.width, 3);
    for (let y = 0; y < image.height; y++)
      for (let x = 0; x < image.width; x++)
        for (let c = 0; c < 3; c++)
          lying.data[(x * image.height + image.height - 1 - y) * 3 + c] =
            image.data[(y * image.width + x) * image.channels + c]!;
    const turned = corners.map((p) => ({ x: image.height - p.y, y: p.x }));
    const map = segmentPage(toColourPicture(lying, ws()));
    expect(map.width).toBeGreaterThan(map.height);
    expect(overlapOf(map, turned, lying.width, lying.height)).toBeGreaterThan(0.93);
  });

  it('sees no page on a bare desk', () => {
    const bare: PixelImage = {
      width: 300,
      height: 400,
      channels: 3,
      data: Uint8ClampedArray.from({ length: 360_000 }, (_, i) => 70 + ((i * 7919) % 13) + (i % 3 === 0 ? 25 : 0)),
    };
    const map = segmentPage(toColourPicture(bare, ws()));
    expect(map.pageArea / map.page.length).toBeLessThan(0.1);
  });
});

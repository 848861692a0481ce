import { createScene } from '../../../demo/camera/scene';
import { photograph, photographDesk } from '../../../demo/camera/photograph';
import { pageJaccard } from '../geometry/jaccard';
import { findLiveOutline } from './findLiveOutline';
import { SHOW_FROM } from './steadyOutline';

const camera = { widthPx: 480, heightPx: 640, tiltRad: 0.25, fill: 0.8, blurPx: 0.5, motionPx: 0, radial: 0 } as const;
const plain = {
  page: { kind: 'calculation', size: 'a4' },
  shape: { kind: 'flat' },
  thumb: false,
  underSheet: false,
  offCentre: { x: 0, y: 0 },
  headingRad: 0.08,
  light: 'gradient',
  camera,
} as const;

describe('the outline in a camera frame', () => {
  it.each(['wood', 'slate', 'pale', 'cloth'] as const)('is found on a desk of %s, and believed', (desk) => {
    const photo = photograph(createScene(9410, { ...plain, desk }));
    const found = findLiveOutline(photo.image)!;
    expect(pageJaccard(found.quad, photo.corners, photo.page.widthMm / photo.page.heightMm)).toBeGreaterThan(0.95);
    expect(found.confidence).toBeGreaterThan(SHOW_FROM);
    expect(found.outOfView).toEqual([false, false, false, false]);
  });

  it.each(['wood', 'slate', 'pale', 'cloth'] as const)('is not believed on a bare desk of %s', (desk) => {
    expect(findLiveOutline(photographDesk(createScene(9420, { ...plain, desk })))?.confidence ?? 0).toBeLessThan(
      SHOW_FROM,
    );
  });

  it('says which side runs out of view', () => {
    const photo = photograph(
      createScene(9411, {
        ...plain,
        desk: 'wood',
        offCentre: { x: 0, y: -0.16 },
        camera: { ...camera, tiltRad: 0.05, fill: 0.9 },
      }),
    );
    expect(photo.corners[2].y).toBeGreaterThan(640);
    expect(findLiveOutline(photo.image)?.outOfView).toEqual([false, false, true, false]);
  });
});

import { createScene, type Scene } from '../../../demo/camera/scene';
import { photograph } from '../../../demo/camera/photograph';
import type { PageKind } from '../../../demo/artist/drawPage';
import { readFrameFacts } from './frameFacts';
import { fingerprintSimilarity } from '../quality/pageFingerprint';

const shoot = (kind: PageKind, patch: Partial<Scene['camera']> = {}, headingRad = 0.05) =>
  photograph(
    createScene(9430, {
      page: { kind, size: 'a4', seed: 3 },
      desk: 'wood',
      light: 'gradient',
      shape: { kind: 'flat' },
      thumb: false,
      underSheet: false,
      offCentre: { x: 0, y: 0 },
      headingRad,
      camera: { widthPx: 480, heightPx: 640, tiltRad: 0.2, fill: 0.8, blurPx: 0.5, motionPx: 0, ...patch },
    }),
  );
const factsOf = ({ image, corners }: ReturnType<typeof shoot>) => readFrameFacts(image, corners);

describe('what a frame tells', () => {
  it('the same page looks the same from elsewhere, another page does not', () => {
    const one = factsOf(shoot('calculation'));
    expect(
      fingerprintSimilarity(
        one.fingerprint,
        factsOf(shoot('calculation', { tiltRad: 0.25, fill: 0.76 }, 0.03)).fingerprint,
      ),
    ).toBeGreaterThan(0.9);
    for (const other of ['curve', 'botany', 'printed', 'log', 'knot', 'notes'] as const)
      expect(fingerprintSimilarity(one.fingerprint, factsOf(shoot(other)).fingerprint)).toBeLessThan(0.7);
  });

  it('sharpness falls with blur', () => {
    const [sharp, soft, blurred] = [0.5, 1.2, 2.5].map((blurPx) => factsOf(shoot('printed', { blurPx })).sharpness);
    expect(sharp).toBeGreaterThan(soft! * 1.1);
    expect(soft).toBeGreaterThan(blurred! * 1.1);
  });

  it('finds a reflection on the page and none without one', () => {
    const photo = shoot('notes');
    expect(factsOf(photo).glareAt).toBeNull();
    const middle = { x: 240, y: 320 };
    const data = photo.image.data.map((v, i) => {
      const x = Math.floor(i / 3) % 480;
      const y = Math.floor(i / 3 / 480);
      return (x - middle.x) ** 2 + (y - middle.y) ** 2 < 60 ** 2 ? 255 : Math.min(v, 225);
    });
    const { glareAt } = readFrameFacts({ ...photo.image, data }, photo.corners);
    expect(Math.hypot(glareAt!.x - middle.x, glareAt!.y - middle.y)).toBeLessThan(25);
  });
});

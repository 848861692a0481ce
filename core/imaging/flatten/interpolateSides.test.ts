import { ALL_STRAIGHT, distanceToBentSide, type Bends } from '../geometry/bentOutline';
import { applyHomography, homographyBetween } from '../geometry/homography';
import { distance } from '../geometry/point';
import { wholePicture, type Quad } from '../geometry/quad';
import { interpolateSides } from './interpolateSides';

const CORNERS: Quad = [
  { x: 210, y: 190 },
  { x: 1180, y: 240 },
  { x: 1290, y: 1650 },
  { x: 160, y: 1540 },
];
const BENDS: Bends = [
  [0.02, 0.03, 0.02],
  [-0.01, -0.02, -0.02],
  [0, 0.01, 0.03],
  [0.03, 0.02, 0],
];
const PHOTO = { photoWidth: 1500, photoHeight: 2000 };
const homography = homographyBetween(wholePicture(1, 1), CORNERS);

describe('interpolateSides', () => {
  it('puts the rim of the page onto the sides, and corners onto corners', () => {
    const { toPhoto } = interpolateSides({ corners: CORNERS, bends: BENDS, ...PHOTO });
    for (let i = 0; i <= 20; i++) {
      const t = i / 20;
      (
        [
          [t, 0],
          [1, t],
          [t, 1],
          [0, t],
        ] as const
      ).forEach(([u, v], s) =>
        expect(distanceToBentSide(toPhoto(u, v), CORNERS[s]!, CORNERS[(s + 1) % 4]!, BENDS[s]!)).toBeCloseTo(0, 6),
      );
    }
    (
      [
        [0, 0],
        [1, 0],
        [1, 1],
        [0, 1],
      ] as const
    ).forEach(([u, v], c) => expect(distance(toPhoto(u, v), CORNERS[c]!)).toBeLessThan(1e-9));
  });

  it('is the homography where sides are straight, and moves least far from bent ones', () => {
    const straight = interpolateSides({ corners: CORNERS, bends: ALL_STRAIGHT, ...PHOTO });
    const bent = interpolateSides({
      corners: CORNERS,
      bends: [BENDS[0], ...ALL_STRAIGHT.slice(1)] as unknown as Bends,
      ...PHOTO,
    });
    const moved = [0.1, 0.5, 0.9].map((v) => {
      const p = applyHomography(homography, { x: 0.5, y: v });
      expect(distance(straight.toPhoto(0.5, v), p)).toBeLessThan(1e-9);
      return distance(bent.toPhoto(0.5, v), p);
    });
    expect(moved[0]!).toBeGreaterThan(moved[1]!);
    expect(moved[1]!).toBeGreaterThan(moved[2]!);
    expect(moved[2]!).toBeLessThan(0.2 * moved[0]!);
  });
});

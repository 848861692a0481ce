import fc from 'fast-check';
import { FotoplanError } from '../../errors';
import { anyQuad } from './arbitraries.test';
import { applyHomography, homographyBetween, invertHomography } from './homography';
import { distance } from './point';

describe('homographyBetween', () => {
  it('lands each corner of the outline on its corner of the page', () => {
    fc.assert(
      fc.property(anyQuad(), anyQuad(), (outline, page) => {
        const h = homographyBetween(outline, page);
        outline.forEach((corner, i) => expect(distance(applyHomography(h, corner), page[i]!)).toBeLessThan(1e-6));
      }),
    );
  });

  it('comes back through its inverse, inside the outline too', () => {
    fc.assert(
      fc.property(anyQuad(), anyQuad(), fc.double({ min: 0.1, max: 0.9, noNaN: true }), (outline, page, t) => {
        const h = homographyBetween(outline, page);
        const p = {
          x: outline[0].x + (outline[2].x - outline[0].x) * t,
          y: outline[0].y + (outline[2].y - outline[0].y) * t,
        };
        expect(distance(applyHomography(invertHomography(h), applyHomography(h, p)), p)).toBeLessThan(1e-5);
      }),
    );
  });

  it('refuses three corners on one line, and names the fix', () => {
    const page = [
      { x: 0, y: 0 },
      { x: 10, y: 0 },
      { x: 10, y: 10 },
      { x: 0, y: 10 },
    ] as const;
    const line = [
      { x: 0, y: 0 },
      { x: 5, y: 0 },
      { x: 10, y: 0 },
      { x: 0, y: 10 },
    ] as const;
    expect(() => homographyBetween(line, page)).toThrow(FotoplanError);
    expect(() => homographyBetween(line, page)).toThrow('Move the corners apart');
  });
});

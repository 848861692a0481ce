import { distance, lerpPoint } from '../../core/imaging/geometry/point';
import { turnQuad } from '../../core/imaging/geometry/quad';
import { startRecipes } from '../../core/work/intake/startRecipe';
import { bookShotOf, scoreBook, scoreNearBook } from './book';

describe('an open book', () => {
  // ruled, squared, printed, a table
  it.each([700, 701, 702, 703])('is cut at its fold, and both pages come out flat: shot %i', async (seed) => {
    for (const { jaccard, mm } of await scoreBook(seed)) {
      expect(jaccard).toBeGreaterThan(0.98);
      expect(mm).toBeLessThan(1);
    }
  });

  it.each([700, 706])('that fills the picture has straight and level lines on both pages: shot %i', async (seed) => {
    for (const { stray, tilt } of await scoreNearBook(seed)) {
      expect(stray).toBeLessThan(0.001);
      expect(tilt).toBeLessThan(0.3);
    }
  });

  it('gives its pages as they are read, also where it lies sideways', async () => {
    const { pages, shot } = await bookShotOf(702);
    const { widthMm: w, heightMm: h } = pages[0];
    const recipes = startRecipes(shot.image, { finish: 'asshot', kind: 'spread', focalRatio: null });
    expect(recipes).toHaveLength(2);
    recipes.forEach(({ outline, quarterTurns, kind }, side) => {
      const [tl, , br, bl] = turnQuad(outline.corners, quarterTurns);
      expect(distance(lerpPoint(tl, br, 0.5), shot.seenAt((side + 0.5) * w, h / 2))).toBeLessThan(120);
      expect(distance(bl, shot.seenAt(side * w, h))).toBeLessThan(20);
      expect(kind).toBe('sheet');
    });
  });
});

import { createScene } from '../../../demo/camera/scene';
import { photograph } from '../../../demo/camera/photograph';
import { detectOutline } from '../../imaging/detect/detectOutline';
import { FotoplanError } from '../../errors';
import type { Quad } from '../../imaging/geometry/quad';
import type { PixelImage } from '../../imaging/raster/pixelImage';
import { resizeByArea } from '../../imaging/raster/resizeByArea';
import { renderedSize, renderPage } from '../render/renderPage';
import {
  CHECK_TURN_BELOW,
  needsEdgeCheck,
  needsTurnCheck,
  outlineProblem,
  type OutlineProblem,
  outlineRecipe,
  readRecipe,
  turnRecipe,
  wantsLook,
} from './recipe';
import { wholePhotoRecipe } from './plainRecipe';
import { recipeFromOutline } from '../intake/recipeFromOutline';
import { startRecipes } from '../intake/startRecipe';

const photo = photograph(
  createScene(9301, {
    page: { kind: 'printed', size: 'a4' },
    desk: 'wood',
    light: 'gradient',
    shape: { kind: 'flat' },
    thumb: false,
    underSheet: false,
    headingRad: 0.05,
    offCentre: { x: 0, y: 0 },
    camera: { widthPx: 1200, heightPx: 1600, tiltRad: 0.3, fill: 0.85, radial: 0, blurPx: 0.6, motionPx: 0 },
  }),
);

describe('recipes', () => {
  const [recipe] = startRecipes(photo.image, { finish: 'daylight', kind: 'sheet', focalRatio: null });

  it('begin with the paper’s own outline and proportions', () => {
    expect(recipe.outline.by).toBe('found');
    recipe.outline.corners.forEach((corner, i) => {
      expect(Math.hypot(corner.x - photo.corners[i]!.x, corner.y - photo.corners[i]!.y)).toBeLessThan(8);
    });
    const { width, height } = renderedSize(photo.image, recipe);
    expect(height / width).toBeCloseTo(Math.SQRT2, 2);
  });

  it('set a page the right way up when its writing can be read, and say how sure that is', () => {
    const upsideDown = { ...photo.image, data: photo.image.data.slice() };
    const count = photo.image.width * photo.image.height;
    for (let i = 0; i < count; i++)
      for (let c = 0; c < 3; c++) upsideDown.data[i * 3 + c] = photo.image.data[(count - 1 - i) * 3 + c]!;
    const [turned] = startRecipes(upsideDown, { finish: 'daylight', kind: 'sheet', focalRatio: null });
    expect(recipe).toMatchObject({ quarterTurns: 0 });
    expect(turned.quarterTurns).toBe(2);
    expect(turned.uprightConfidence).toBeGreaterThan(CHECK_TURN_BELOW);
    expect(needsTurnCheck(turned)).toBe(false);
    expect([needsTurnCheck, wantsLook].map((asks) => asks({ ...turned, uprightConfidence: 0.7 }))).toEqual([
      true,
      true,
    ]);
    expect(needsTurnCheck(wholePhotoRecipe(100, 80, 'asshot'))).toBe(false);
  });

  it('leave a found outline to its edges, whatever its writing does', () => {
    const { quad, bends } = detectOutline(photo.image)!;
    const { outline } = recipeFromOutline(
      photo.image,
      { quad, bends, confidence: 0.2 },
      { finish: 'daylight', kind: 'sheet', focalRatio: null },
    );
    expect([outline.corners, outline.bends]).toEqual([quad, bends]);
  });

  it('are shown as unsure when nothing that looks like paper is in the photo', () => {
    const noise: PixelImage = {
      width: 300,
      height: 400,
      channels: 3,
      data: Uint8ClampedArray.from({ length: 360_000 }, (_, i) => 90 + ((i * 2654435761) % 7)),
    };
    expect(needsEdgeCheck(startRecipes(noise, { finish: 'daylight', kind: 'sheet', focalRatio: null })[0])).toBe(true);
  });

  it('give the same picture at two sizes: the preview is the final page, smaller', () => {
    const final = renderPage(photo.image, recipe, 1200);
    const preview = renderPage(photo.image, recipe, 600);
    const shrunk = resizeByArea(final, preview.width, preview.height);
    const difference = shrunk.data.reduce((sum, v, i) => sum + Math.abs(v - preview.data[i]!), 0) / shrunk.data.length;
    expect(difference).toBeLessThan(4);
  });

  it('turn the page without losing anything: four quarter turns change nothing, one swaps the sides', () => {
    const once = turnRecipe(recipe, 1);
    const upright = renderPage(photo.image, recipe, 400);
    const turned = renderPage(photo.image, once, 400);
    expect([turned.width, turned.height]).toEqual([upright.height, upright.width]);
    expect(turnRecipe(turnRecipe(once, 2), 1)).toEqual({ ...recipe, uprightConfidence: 1 });
    // what was at the top left is now at the top right
    const corner = (page: PixelImage, x: number, y: number): number => page.data[(y * page.width + x) * 3 + 1]!;
    expect(Math.abs(corner(upright, 40, 60) - corner(turned, turned.width - 61, 40))).toBeLessThan(30);
  });

  it('count a corner set by hand as certain', () => {
    const set = outlineRecipe({ ...recipe, outline: { ...recipe.outline, confidence: 0.1 } }, recipe.outline);
    expect(set.outline).toMatchObject({ by: 'hand', confidence: 1 });
    expect(needsEdgeCheck(set)).toBe(false);
  });
});

describe('outlines', () => {
  const at = (x: number, y: number): { x: number; y: number } => ({ x, y });
  const cases: [string, Quad, OutlineProblem | null][] = [
    ['a usable outline', [at(10, 10), at(90, 12), at(88, 90), at(12, 88)], null],
    ['crossed sides', [at(10, 10), at(90, 90), at(90, 10), at(10, 90)], 'crossed'],
    ['a tiny outline', [at(10, 10), at(12, 10), at(12, 12), at(10, 12)], 'tooSmall'],
    ['a corner far outside', [at(-400, 10), at(90, 12), at(88, 90), at(12, 88)], 'outside'],
    ['no number', [at(NaN, 10), at(90, 12), at(88, 90), at(12, 88)], 'noPlace'],
  ];
  it.each(cases)('are checked: %s', (_name, corners, problem) =>
    expect(outlineProblem(corners, 100, 100)).toBe(problem),
  );
});

describe('readRecipe', () => {
  const good = wholePhotoRecipe(100, 80, 'asshot');
  it('takes what was stored', () => expect(readRecipe(JSON.parse(JSON.stringify(good)))).toEqual(good));
  it('brings what earlier versions stored to today’s: straight sides, proportions as seen, nobody asked which way up', () => {
    const { outline, quarterTurns, finish } = good;
    const before = {
      quarterTurns,
      finish,
      outline: { corners: outline.corners, by: outline.by, confidence: outline.confidence },
    };
    expect(readRecipe({ ...before, version: 1 })).toEqual({ ...good, uprightConfidence: null });
    expect(readRecipe({ ...before, version: 2, kind: 'card' })).toEqual({
      ...good,
      kind: 'card',
      uprightConfidence: null,
    });
  });

  const bad: [string, unknown][] = [
    ['nothing', null],
    ['no version', { ...good, version: undefined }],
    ['a newer version', { ...good, version: 99 }],
    ['three corners', { ...good, outline: { ...good.outline, corners: good.outline.corners.slice(1) } }],
    ['a side without its bend', { ...good, outline: { ...good.outline, bends: good.outline.bends.slice(1) } }],
    [
      'a bend that is no number',
      {
        ...good,
        outline: {
          ...good.outline,
          bends: [
            ['a', 0, 0],
            [0, 0, 0],
            [0, 0, 0],
            [0, 0, 0],
          ],
        },
      },
    ],
    ['an unknown sheet', { ...good, sheet: 'napkin' }],
    ['half a turn of a turn', { ...good, quarterTurns: 0.5 }],
    ['an unknown finish', { ...good, finish: 'neon' }],
  ];
  it.each(bad)('refuses %s with RECIPE_INVALID', (_name, stored) => {
    expect(() => readRecipe(stored)).toThrow(FotoplanError);
    expect(() => readRecipe(stored)).toThrow(expect.objectContaining({ code: 'RECIPE_INVALID' }) as Error);
  });
});

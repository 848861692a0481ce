import fc from 'fast-check';
import { createScene, type ScenePatch } from '../../../demo/camera/scene';
import { photograph } from '../../../demo/camera/photograph';
import type { Finish } from '../../imaging/finish/finishSettings';
import { readPhoto } from '../../imaging/photo-reading/readPhoto';
import type { PixelImage } from '../../imaging/raster/pixelImage';
import { fitLongSide, resizeByArea } from '../../imaging/raster/resizeByArea';
import { recipeOf } from '../recipe/plainRecipe';
import type { Recipe } from '../recipe/recipe';
import { renderPage, scaleRecipe } from './renderPage';
import { ALL_STRAIGHT } from '../../imaging/geometry/bentOutline';

/*
 * A preview is the file's page, smaller: whatever the light, the hand, the mends and the sizes. Small print is harder the smaller
 * it is shown: strokeGain.ts says how much is left, and Pencil and Press, which draw in steps, say it for themselves.
 */

const camera = { tiltRad: 0.2, radial: 0, fill: 0.9, motionPx: 0, blurPx: 0.7, widthPx: 1500, heightPx: 2000 };
const plain = { desk: 'wood', shape: { kind: 'flat' }, thumb: false, underSheet: false, headingRad: 0.05 } as const;
const CASES: Readonly<Record<string, ScenePatch>> = {
  dim: { ...plain, light: 'dim', camera },
  blurred: { ...plain, light: 'even', camera: { ...camera, motionPx: 7, motionRad: 0.6 } },
  mended: { ...plain, light: 'phoneShadow', camera },
  glossy: { ...plain, light: 'glare', camera },
  'odd-sized': { ...plain, light: 'gradient', camera: { ...camera, widthPx: 1331, heightPx: 1783 } },
};

/** Mean difference of the large page, made small, and the small one, in levels. */
function difference(large: PixelImage, small: PixelImage): number {
  const shrunk = resizeByArea(large, small.width, small.height);
  return shrunk.data.reduce((sum, v, i) => sum + Math.abs(v - small.data[i]!), 0) / shrunk.data.length;
}

function shoot(seed: number, name: string): { readonly photo: PixelImage; readonly recipe: Recipe } {
  const { image, corners } = photograph(createScene(seed, CASES[name]));
  const [tl, , br] = corners;
  const at = (t: number): { x: number; y: number } => ({ x: tl.x + (br.x - tl.x) * t, y: tl.y + (br.y - tl.y) * t });
  const mends = name === 'mended' ? [{ points: [at(0.3), at(0.4)], radius: 40 }] : [];
  return {
    photo: image,
    recipe: {
      ...recipeOf({ corners, bends: ALL_STRAIGHT, lines: [], by: 'found', confidence: 1 }, 'daylight', 'sheet'),
      reading: readPhoto(image, corners, null),
      mends,
    },
  };
}

it.each(Object.keys(CASES))('a %s page is the same at two sizes: to 2 levels on the mean', (name) => {
  const found: number[] = [];
  const check = (off: number): void => {
    // the smallest print on the noisiest paper
    expect(off).toBeLessThan(3.5);
    found.push(off);
  };
  fc.assert(
    fc.property(
      fc.integer({ min: 7000, max: 7999 }),
      fc.integer({ min: 1500, max: 1700 }),
      fc.integer({ min: 900, max: 1100 }),
      fc.constantFrom<Finish>('daylight', 'daylight', 'board', 'asshot'),
      (seed, largePx, smallPx, finish) => {
        const { photo, recipe: found } = shoot(seed, name);
        const recipe = { ...found, finish };
        const large = renderPage(photo, recipe, largePx);
        check(difference(large, renderPage(photo, recipe, smallPx)));
        // and from the smaller copy that screens draw from, which has been sampled once more
        const copy = fitLongSide(photo, 1600);
        check(difference(large, renderPage(copy, scaleRecipe(recipe, copy.width / photo.width), smallPx)));
      },
    ),
    { numRuns: 2, endOnFailure: true },
  );
  expect(found.reduce((sum, off) => sum + off, 0) / found.length).toBeLessThan(2);
});

it('reads a hand that moved on the photo, and takes it out of previews too', () => {
  const { photo, recipe } = shoot(7100, 'blurred');
  expect(recipe.reading.motionBlur).not.toBeNull();
  const untouched = { ...recipe, reading: { ...recipe.reading, motionBlur: null } };
  const [steadied, blurred] = [recipe, untouched].map((each) => renderPage(photo, each, 900));
  const contrast = ({ data }: PixelImage): number => data.reduce((sum, v) => sum + (255 - v) ** 2, 0);
  expect(contrast(steadied!)).toBeGreaterThan(1.1 * contrast(blurred!));
});

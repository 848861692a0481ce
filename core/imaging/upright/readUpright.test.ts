import { drawPage, type PageKind } from '../../../demo/artist/drawPage';
import { flattenPage } from '../flatten/flattenPage';
import { turnQuad, wholePicture } from '../geometry/quad';
import { createPixelImage, type PixelImage } from '../raster/pixelImage';
import { fitLongSide } from '../raster/resizeByArea';
import { readUpright } from './readUpright';

/** The page turned clockwise. */
function turned(page: PixelImage, quarterTurns: number): PixelImage {
  const { width, height } = page;
  const size = quarterTurns % 2 === 0 ? { width, height } : { width: height, height: width };
  return flattenPage(page, { corners: turnQuad(wholePicture(width, height), quarterTurns), sheet: null }, size);
}

describe('readUpright', () => {
  const kinds: PageKind[] = ['printed', 'log', 'notes'];
  it.each(kinds)('tells which way up a %s page is, however it lies', (kind) => {
    const page = fitLongSide(drawPage(kind, 'a4', 11).image, 1000);
    for (const turns of [0, 1, 2, 3]) {
      const { quarterTurns, confidence } = readUpright(turned(page, turns));
      expect([turns, quarterTurns, confidence! > 0.9]).toEqual([turns, (4 - turns) % 4, true]);
    }
  });

  it.each<PageKind>(['knot', 'curve', 'botany'])('is not surely wrong about a %s page, which has few words', (kind) => {
    let sure = 0;
    for (const seed of [11, 12, 13]) {
      const page = fitLongSide(drawPage(kind, 'a4', seed).image, 1000);
      for (const turns of [0, 2]) {
        const { quarterTurns, confidence } = readUpright(turned(page, turns));
        if (confidence! <= 0.9) continue;
        sure++;
        expect(quarterTurns).toBe((4 - turns) % 4);
      }
    }
    expect(sure).toBeGreaterThanOrEqual(2);
  });

  it('says nothing of a blank page', () => {
    const blank = createPixelImage(700, 1000, 1);
    blank.data.fill(230);
    expect(readUpright(blank)).toEqual({ quarterTurns: 0, confidence: null });
  });
});

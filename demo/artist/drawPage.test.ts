import { drawPage, PAGE_KINDS, SHEET_SIZES_MM } from './drawPage';
import { PX_PER_MM } from './sheet';

describe('the page artist', () => {
  it.each(PAGE_KINDS)('draws a %s page with ink, paper and text that stands on the sheet', (kind) => {
    const page = drawPage(kind, 'a5', 12);
    expect([page.image.width, page.image.height]).toEqual(SHEET_SIZES_MM.a5.map((mm) => Math.round(mm * PX_PER_MM)));
    const inked = page.inkMask.reduce((sum, v) => sum + (v > 0 ? 1 : 0), 0) / page.inkMask.length;
    expect(inked).toBeGreaterThan(0.002);
    expect(inked).toBeLessThan(0.3);
    expect(page.lines.length).toBeGreaterThan(2);
    for (const line of page.lines) {
      expect(line.text.trim()).not.toBe('');
      expect(line.yMm).toBeGreaterThan(0);
      expect(line.yMm).toBeLessThan(page.heightMm + 40);
    }
  });

  it('draws the same page for the same seed and another for another', () => {
    const data = (seed: number): Buffer => Buffer.from(drawPage('notes', 'a5', seed).image.data);
    const once = data(5);
    expect(data(5).equals(once)).toBe(true);
    expect(data(6).equals(once)).toBe(false);
  });
});

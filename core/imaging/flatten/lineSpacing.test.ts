import { offPitch, rankLines } from './lineSpacing';

describe('lines that stand evenly', () => {
  it('are numbered over those that were not found, in any order', () => {
    const places = [70, 10, 20, 30, 50, 60, 90, 100, 110];
    expect(rankLines(places)!.map(({ number }) => number)).toEqual([6, 0, 1, 2, 4, 5, 8, 9, 10]);
  });

  it('begin another row behind a heading, and both rows have one pitch', () => {
    const places = [0, 10, 20, 30, 40, 54.5, 64.5, 74.5, 84.5, 94.5];
    const ranks = rankLines(places)!;
    expect(ranks.map(({ row }) => row)).toEqual([0, 0, 0, 0, 0, 1, 1, 1, 1, 1]);
    for (const off of offPitch(places, ranks)) expect(off).toBeCloseTo(0);
  });

  it('tell how far one is off', () => {
    const places = Array.from({ length: 11 }, (_, k) => 5 * k + (k === 5 ? 0.4 : 0));
    const off = offPitch(places, rankLines(places)!);
    expect(off[5]).toBeCloseTo((0.4 * 10) / 11);
  });

  it('are not seen in lines by hand, nor in a few', () => {
    expect(rankLines([0, 7, 16, 21, 33, 38, 51, 57, 70, 74])).toBeNull();
    expect(rankLines([0, 10, 20, 30])).toBeNull();
  });
});

import { wordsOf } from './wordsOf';

const box = (x0: number, y0: number, x1: number, y1: number) => ({ x0, y0, x1, y1 });

describe('words for a file', () => {
  it('are those that were read well, in shares of the page, from their baseline to the top of a tall letter', () => {
    const line = {
      baseline: box(100, 230, 500, 230),
      rowAttributes: { rowHeight: 40, descenders: 10 },
      words: [
        { text: 'Tide', confidence: 93, bbox: box(100, 200, 180, 230) },
        { text: 'xq~', confidence: 20, bbox: box(190, 200, 250, 240) },
        { text: '—', confidence: 90, bbox: box(260, 215, 280, 218) },
        { text: 'pools', confidence: 88, bbox: box(300, 206, 400, 240) },
      ],
    };
    expect(wordsOf([{ paragraphs: [{ lines: [line] }] }], [], 1000, 2000)).toEqual([
      { text: 'Tide', x: 0.1, y: 0.1, width: 0.08, height: 0.015, confidence: 0.93 },
      { text: 'pools', x: 0.3, y: 0.1, width: 0.1, height: 0.015, confidence: 0.88 },
    ]);
  });

  it('are those of a box where it was read for itself, in their place on the page', () => {
    const lineAt = (x: number, y: number, ...texts: string[]) => ({
      baseline: box(x, y, x + 100 * texts.length, y),
      rowAttributes: { rowHeight: 30, descenders: 0 },
      words: texts.map((text, k) => ({ text, confidence: 90, bbox: box(x + 100 * k, y - 30, x + 100 * k + 80, y) })),
    });
    const blocksOf = (...lines: ReturnType<typeof lineAt>[]) => [{ paragraphs: [{ lines }] }];
    const words = wordsOf(
      blocksOf(lineAt(120, 90, 'Sk', 't'), lineAt(100, 500, 'Name')),
      [{ blocks: blocksOf(lineAt(20, 50, 'Shore', 'log')), at: { x: 100, y: 40, width: 600, height: 100 } }],
      1000,
      1000,
    );
    const unread = wordsOf(
      blocksOf(lineAt(120, 90, 'Sk')),
      [{ blocks: null, at: { x: 100, y: 40, width: 600, height: 100 } }],
      1000,
      1000,
    );
    expect(unread.map(({ text }) => text)).toEqual(['Sk']);
    expect(words.map(({ text, x, y }) => [text, x, y])).toEqual([
      ['Shore', 0.12, 0.06],
      ['log', 0.22, 0.06],
      ['Name', 0.1, 0.47],
    ]);
  });

  it('are none where nothing was read', () => expect(wordsOf(null, [], 1000, 2000)).toEqual([]));
});

import type { PageWord } from './pageWord';
import { paragraphs } from './paragraphs';

/** Lines of words that stand a space apart, at the pitch of print. */
const page = (...lines: readonly string[]): PageWord[] =>
  lines.flatMap((line, k) =>
    line.split(' ').map((text, i) => ({
      text,
      x: 0.1 + 0.08 * i,
      y: 0.3 + 0.02 * k,
      width: 0.07,
      height: 0.01,
      confidence: 0.9,
    })),
  );
const texts = (words: readonly PageWord[]): string[][] =>
  paragraphs(words).map((each) => each.words.map(({ text }) => text));

describe('paragraphs', () => {
  it('end where there is space, and where the size is another', () => {
    const [above, below] = [page('the tide turns', 'at noon'), page('', '', '', '', '', '', 'high water').slice(-2)];
    const small = page('', '', 'a note')
      .slice(-2)
      .map((word) => ({ ...word, height: 0.006 }));
    expect(texts([...above, ...below])).toEqual([
      ['the', 'tide', 'turns', 'at', 'noon'],
      ['high', 'water'],
    ]);
    expect(texts([...above, ...small])).toHaveLength(2);
  });

  it('have a word that was broken at the end of a line once, whole, where it begins', () => {
    const words = page('low pres-', 'sure raises the sea', 'by a centi\u00ad', 'metre');
    const [found] = paragraphs(words);
    expect(found!.words.map(({ text }) => text)).toEqual([
      'low',
      'pressure',
      'raises',
      'the',
      'sea',
      'by',
      'a',
      'centimetre',
    ]);
    expect(found!.words[1]).toEqual({ ...words[1], text: 'pressure' });
  });

  it.each([
    ['a name', 'at Skerry-', 'Point we saw'],
    ['a number', 'pages 3-', 'four and five'],
    ['a dash', 'the sea -', 'and the land'],
    ['a hyphen within a line', 'a well-known port', 'of call'],
  ])('leave %s as it was read', (_what, first, second) =>
    expect(texts(page(first, second)).flat()).toEqual([...first.split(' '), ...second.split(' ')]),
  );

  it('join nothing over the end of a paragraph', () =>
    expect(texts([...page('low pres-'), ...page('', '', '', '', '', 'sure').slice(-1)])).toEqual([
      ['low', 'pres-'],
      ['sure'],
    ]));
});

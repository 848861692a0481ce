import { advise, type PageFacts } from './advise';
import { numberInText, questionInText } from './numberInText';

const print = (seed: number): Float32Array => {
  const raw = Float32Array.from({ length: 64 }, (_, i) => Math.sin(seed * 12.9898 + i * 78.233 * seed));
  const norm = Math.hypot(...raw);
  return raw.map((v) => v / norm);
};
const page = (id: string, number: number | null, facts: Partial<PageFacts> = {}): PageFacts => ({
  id,
  blank: false,
  fingerprint: print(id.charCodeAt(0)),
  number,
  ...facts,
});

describe('advice on the order', () => {
  it('has nothing to say about pages in order, numbered or not', () => {
    expect(advise([page('a', 1), page('b', 2), page('c', null), page('d', 3)])).toEqual([]);
    expect(advise([page('a', null), page('b', null)])).toEqual([]);
  });

  it('puts numbered pages in order; those without a number go along', () => {
    expect(advise([page('x', null), page('c', 3), page('d', null), page('a', 1), page('b', 2)])).toEqual([
      { kind: 'order', ids: ['x', 'a', 'b', 'c', 'd'] },
    ]);
  });

  it('points out gaps and repeats', () => {
    expect(advise([page('a', 1), page('b', 3), page('c', 3), page('d', 5)])).toEqual([
      { kind: 'gap', of: 'page', after: 1, next: 3 },
      { kind: 'repeat', number: 3, id: 'c' },
      { kind: 'gap', of: 'page', after: 3, next: 5 },
    ]);
  });

  it('goes by questions where pages have no numbers; one that goes on is no repeat', () => {
    const asks = (id: string, question: number | null) => page(id, null, { question });
    expect(advise([asks('a', 1), asks('b', null), asks('c', 1), asks('d', 2)])).toEqual([]);
    expect(advise([asks('c', 4), asks('a', 1), asks('b', null)])).toEqual([
      { kind: 'order', ids: ['a', 'b', 'c'] },
      { kind: 'gap', of: 'question', after: 1, next: 4 },
    ]);
    expect(advise([page('a', 1, { question: 5 }), page('b', 2, { question: 3 })])).toEqual([]);
  });

  it('points out blank pages and pages that lie there twice, and no two blank ones as alike', () => {
    const twice = print(9);
    expect(
      advise([
        page('a', null, { fingerprint: twice }),
        page('b', null, { blank: true }),
        page('c', null, { blank: true }),
        page('d', null, { fingerprint: twice }),
      ]),
    ).toEqual([
      { kind: 'blank', id: 'b' },
      { kind: 'blank', id: 'c' },
      { kind: 'alike', first: 'a', second: 'd' },
    ]);
  });
});

describe('the number on a page', () => {
  const read = (...texts: string[]) => numberInText(texts.map((text) => ({ text, confidence: 90 })));

  it('is read alone, with its word, or out of so many', () => {
    expect(read('3')).toBe(3);
    expect(read('- 12 -')).toBe(12);
    expect(read('3 / 7')).toBe(3);
    expect(read('Tidal Streams   Page 4 of 9')).toBe(4);
    expect(read('p. 5')).toBe(5);
  });

  it('is not guessed: other numbers, unsure ones, and two that differ are left alone', () => {
    expect(read('Set 4: heights at a secondary port')).toBeNull();
    expect(read('4.8 m')).toBeNull();
    expect(read('2', '9')).toBeNull();
    expect(read('page 2', '9')).toBe(2);
    expect(numberInText([{ text: 'Page 3', confidence: 40 }])).toBeNull();
  });
});

describe('the question on a page', () => {
  it.each([
    [['Question 3'], 3],
    [['Mira T.', 'Q2. Find the height'], 2],
    [['Task 4 (b)', 'Task 5'], 4],
    [['in question 3 we saw'], null],
    [['Quadrat 7'], null],
  ])('in %j is %s', (texts, number) =>
    expect(questionInText(texts.map((text) => ({ text, confidence: 90 })))).toBe(number),
  );
});

import { distanceToMark, eraseAt, marksProblem, strokeOutline, turnMarks, type Mark, type StrokeMark } from './marks';

const stroke: StrokeMark = {
  id: 'a',
  kind: 'pen',
  colour: '#1f4f9e',
  width: 0.004,
  points: [
    { x: 0.2, y: 0.5 },
    { x: 0.4, y: 0.5 },
    { x: 0.6, y: 0.5 },
  ],
};
const note: Mark = { id: 'n', kind: 'note', colour: '#1d2733', at: { x: 0.1, y: 0.2 }, text: 'check sign' };

describe('marks', () => {
  it('turn with their page, and come back after four turns', () => {
    expect((turnMarks([stroke], 1)[0] as StrokeMark).points[0]).toEqual({ x: 0.5, y: 0.2 });
    const [back] = turnMarks(turnMarks([stroke], 3), 1) as StrokeMark[];
    back!.points.forEach((p, i) => {
      expect(p.x).toBeCloseTo(stroke.points[i]!.x);
      expect(p.y).toBeCloseTo(stroke.points[i]!.y);
    });
  });

  it('have an outline of their width', () => {
    const ys = strokeOutline({ ...stroke, kind: 'highlighter', width: 0.02 }, 1000, 1400).map(([, y]) => y);
    expect(Math.max(...ys) - Math.min(...ys)).toBeGreaterThan(20);
    expect(Math.max(...ys) - Math.min(...ys)).toBeLessThan(36);
  });

  it('are rubbed out where they are touched; a signature goes as a whole', () => {
    expect(eraseAt([stroke, note], { x: 0.4, y: 0.501 }, 0.01, 1000, 1400)).toEqual([note]);
    expect(eraseAt([stroke, note], { x: 0.12, y: 0.205 }, 0.002, 1000, 1400)).toEqual([stroke]);
    const signed: Mark[] = [
      { ...stroke, id: 's1', kind: 'signature', group: 's' },
      { ...stroke, id: 's2', kind: 'signature', group: 's', points: [{ x: 0.9, y: 0.9 }] },
    ];
    expect(eraseAt(signed, { x: 0.9, y: 0.9 }, 0.01, 1000, 1400)).toEqual([]);
    expect(distanceToMark(stroke, { x: 0.4, y: 0.9 }, 1000, 1000)).toBeCloseTo(0.398, 2);
  });

  it('are checked before they are kept', () => {
    expect(marksProblem([stroke, note])).toBeNull();
    for (const bad of [
      'x',
      [{}],
      [null],
      [{ ...stroke, points: [] }],
      [{ ...stroke, width: 3 }],
      [{ ...note, text: 'x'.repeat(501) }],
      [{ ...stroke, colour: 'red' }],
    ])
      expect(marksProblem(bad)).not.toBeNull();
  });
});

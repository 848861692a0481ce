import { NO_HISTORY, redone, undone, withStep, type HistoryStep } from './history';

const step = (n: number, group?: string): HistoryStep => ({
  label: { key: 'light', count: n },
  forward: [{ kind: 'deleteHandIn', handInId: `f${n}` }],
  inverse: [{ kind: 'deleteHandIn', handInId: `i${n}` }],
  ...(group === undefined ? {} : { group }),
});

describe('what was done', () => {
  it('is taken back and done again in its order, and forgotten once something else is done', () => {
    const two = withStep(withStep(NO_HISTORY, step(1)), step(2));
    const back = undone(two)!;
    expect(back.step.label.count).toBe(2);
    expect(redone(back.after)!.after).toEqual(two);
    expect(withStep(back.after, step(3))).toMatchObject({
      done: [{ label: { count: 1 } }, { label: { count: 3 } }],
      undone: [],
    });
    expect([undone(NO_HISTORY), redone(two)]).toEqual([null, null]);
  });

  it('in one go is one step, taken back from its end', () => {
    const joined = withStep(withStep(withStep(NO_HISTORY, step(1, 'g')), step(2, 'g')), step(3, 'other'));
    expect(joined.done).toHaveLength(2);
    expect(joined.done[0]!.forward.map(({ handInId }) => handInId)).toEqual(['f1', 'f2']);
    expect(joined.done[0]!.inverse.map(({ handInId }) => handInId)).toEqual(['i2', 'i1']);
  });

  it('is kept up to 200 steps', () => {
    const many = Array.from({ length: 230 }, (_, n) => step(n)).reduce(withStep, NO_HISTORY);
    expect([many.done.length, many.done[0]!.label.count]).toEqual([200, 30]);
  });
});

import { act, renderHook } from '@testing-library/react';
import { useSteps } from './useSteps';

const steps = (first: string) => {
  const { result } = renderHook(() => useSteps(first));
  return {
    now: () => result.current,
    take: (...names: readonly string[]) => {
      for (const name of names)
        act(() => {
          if (name === 'undo') result.current.undo();
          else if (name === 'redo') result.current.redo();
          else result.current.set(name);
        });
    },
    begin: (start: string) => act(() => result.current.begin(start)),
  };
};

describe('useSteps', () => {
  it.each<[readonly string[], string, boolean, boolean]>([
    [[], 'first', false, false],
    [['one'], 'one', true, false],
    [['one', 'two', 'undo'], 'one', true, true],
    [['one', 'two', 'undo', 'undo'], 'first', false, true],
    [['one', 'undo', 'redo'], 'one', true, false],
    [['one', 'two', 'undo', 'three'], 'three', true, false],
    [['one', 'undo', 'undo', 'undo'], 'first', false, true],
    [['redo'], 'first', false, false],
  ])('after %j it is at %s', (taken, present, canUndo, canRedo) => {
    const { now, take } = steps('first');
    take(...taken);
    expect(now()).toMatchObject({ present, canUndo, canRedo });
  });

  it('forgets everything when it begins anew', () => {
    const { now, take, begin } = steps('first');
    take('one', 'two', 'undo');
    begin('another');
    expect(now()).toMatchObject({ present: 'another', canUndo: false, canRedo: false });
  });
});

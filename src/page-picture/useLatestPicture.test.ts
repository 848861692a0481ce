import { act, renderHook } from '@testing-library/react';
import type { Page } from '../../core/work/hand-in/handIn';
import { wholePhotoRecipe } from '../../core/work/recipe/plainRecipe';
import type { Recipe } from '../../core/work/recipe/recipe';
import { useLatestPicture } from './useLatestPicture';

const mockRun = jest.fn();
jest.mock('../engine/useEngine', () => ({
  useEngine: () => ({ scheduler: { run: mockRun }, small: { source: () => Promise.resolve({}) } }),
}));

interface Asked {
  readonly recipe: Recipe;
  readonly answer: (bitmap: ImageBitmap) => void;
}
const asked: Asked[] = [];
const closed: string[] = [];
const bitmap = (name: string): ImageBitmap => ({ width: 10, height: 14, close: () => void closed.push(name) });

const page: Page = {
  id: 'page-1',
  originalId: 'a',
  fileName: 'a.jpg',
  width: 1000,
  height: 1400,
  pdfPage: null,
  takenAtMs: null,
  leftOut: false,
  recipe: wholePhotoRecipe(1000, 1400, 'daylight'),
  removedAtMs: null,
  findings: null,
};
const bright = (brightness: number): Recipe => ({ ...page.recipe, light: { ...page.recipe.light, brightness } });
const settle = (): Promise<void> => act(async () => void (await new Promise((resolve) => setTimeout(resolve, 0))));
const answer = async (k: number, name: string): Promise<void> => {
  asked[k]!.answer(bitmap(name));
  await settle();
};

beforeEach(() => {
  asked.length = 0;
  closed.length = 0;
  mockRun.mockImplementation(
    ({ recipe }: { recipe: Recipe }) => new Promise((resolve) => asked.push({ recipe, answer: resolve })),
  );
});

describe('the picture that follows a hand', () => {
  interface Props {
    readonly recipe: Recipe;
    readonly wanted?: boolean;
  }
  const follow = (first = true) =>
    renderHook<ReturnType<typeof useLatestPicture>, Props>(
      ({ recipe, wanted = first }) => useLatestPicture(page, recipe, 800, wanted),
      {
        initialProps: { recipe: bright(0) },
      },
    );

  it('has one under way at a time, and then the latest that was asked for, not those between', async () => {
    const { result, rerender } = follow();
    await settle();
    expect(result.current).toBeNull();
    for (const brightness of [0.1, 0.2, 0.3]) rerender({ recipe: bright(brightness) });
    await settle();
    expect(asked).toHaveLength(1);
    await answer(0, 'first');
    expect(result.current).not.toBeNull();
    expect(asked.map(({ recipe }) => recipe.light.brightness)).toEqual([0, 0.3]);
  });

  it('gives a picture’s memory back once the next is there, and the last one’s when nobody looks any more', async () => {
    const { result, rerender, unmount } = follow();
    await settle();
    await answer(0, 'first');
    rerender({ recipe: bright(0.5) });
    await settle();
    expect(closed).toEqual([]);
    await answer(1, 'second');
    expect(closed).toEqual(['first']);
    expect(result.current).not.toBeNull();
    unmount();
    expect(closed).toEqual(['first', 'second']);
  });

  it('stays for its own recipe when the hand lets go, and shows nothing old when it takes hold again', async () => {
    const { result, rerender } = follow();
    await settle();
    await answer(0, 'first');
    rerender({ recipe: bright(0), wanted: false });
    expect(result.current).not.toBeNull();
    // undone meanwhile: that is another recipe
    rerender({ recipe: bright(0.7), wanted: false });
    expect(result.current).toBeNull();
    rerender({ recipe: bright(0.8), wanted: true });
    expect(result.current).toBeNull();
    await settle();
    await answer(1, 'second');
    expect(result.current).not.toBeNull();
  });

  it('throws away what comes after it was left', async () => {
    const { unmount } = follow();
    await settle();
    unmount();
    await answer(0, 'late');
    expect(closed).toEqual(['late']);
  });

  it('asks for nothing where it is not wanted, and stays as it was where a picture fails', async () => {
    follow(false);
    await settle();
    expect(asked).toHaveLength(0);
    mockRun.mockImplementationOnce(() => Promise.reject(new Error('lost')));
    const { result, rerender } = follow();
    await settle();
    expect(result.current).toBeNull();
    rerender({ recipe: bright(0.4) });
    await settle();
    expect(asked).toHaveLength(1);
  });
});

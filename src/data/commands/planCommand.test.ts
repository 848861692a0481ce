import fc from 'fast-check';
import { PLAIN_LIGHT } from '../../../core/imaging/finish/finishSettings';
import { shownPages, type HandIn } from '../../../core/work/hand-in/handIn';
import { applyOperation } from '../../../core/work/hand-in/operation';
import { pendingRecipe, wholePhotoRecipe } from '../../../core/work/recipe/plainRecipe';
import { turnRecipe, type Recipe } from '../../../core/work/recipe/recipe';
import { stamped, type Change } from '../change';
import { planCommand, type Command } from './planCommand';

let lastId = 0;
const newId = (): string => `new-page-${++lastId}`;
const apply = (handIn: HandIn | null, changes: readonly Change[], of = 'hand-in-1'): HandIn =>
  changes
    .filter(({ handInId }) => handInId === of)
    .reduce<HandIn | null>((state, change) => applyOperation(state, stamped(change, `op-${++lastId}`, 5)), handIn)!;
const source = (originalId: string, takenAtMs?: number) => ({
  originalId,
  fileName: `${originalId}.jpg`,
  width: 100,
  height: 141,
  recipe: wholePhotoRecipe(100, 141, 'daylight'),
  ...(takenAtMs === undefined ? {} : { takenAtMs }),
});

/** Pages a to e, taken in the order e, d, c (b and a do not tell). */
function example(): HandIn {
  const start = planCommand(
    {
      kind: 'createHandIn',
      handInId: 'hand-in-1',
      title: 'Set 4',
      paper: 'auto',
      binding: { maxBytes: 1e6 },
      assignmentId: null,
    },
    null,
    newId,
  )!;
  return ['a', 'b', 'c', 'd', 'e'].reduce(
    (handIn, id, i) =>
      apply(
        handIn,
        planCommand(
          {
            kind: 'addPage',
            handInId: 'hand-in-1',
            pageId: `page-${id}`,
            source: source(id, i < 2 ? undefined : 100 - i),
          },
          handIn,
          newId,
        )!.changes,
      ),
    apply(null, start.changes),
  );
}
const letters = (handIn: HandIn): string =>
  shownPages(handIn)
    .map(({ originalId }) => originalId)
    .join('');
const run = (handIn: HandIn, command: Command): HandIn =>
  apply(handIn, planCommand(command, handIn, newId)?.changes ?? []);
const meant = (...pages: readonly string[]) => ({
  handInId: 'hand-in-1',
  pageIds: pages.map((page) => `page-${page}`),
});

describe('commands', () => {
  it.each<[Command, string]>([
    [{ kind: 'deletePages', ...meant('b', 'd') }, 'ace'],
    [{ kind: 'reverseOrder', handInId: 'hand-in-1' }, 'edcba'],
    [{ kind: 'sortByTimeTaken', handInId: 'hand-in-1' }, 'abedc'],
    [{ kind: 'movePages', ...meant('a', 'c'), lifted: 'page-a', over: 'page-d' }, 'bdace'],
    [{ kind: 'movePagesTo', ...meant('d', 'e'), number: 2 }, 'adebc'],
    [{ kind: 'movePageBy', handInId: 'hand-in-1', pageId: 'page-c', by: -1 }, 'acbde'],
    [{ kind: 'duplicatePages', ...meant('b') }, 'abbcde'],
    [{ kind: 'deletePagesForGood', ...meant('e') }, 'abcd'],
    [{ kind: 'sendPages', ...meant('a'), toId: 'hand-in-2', keepHere: false }, 'bcde'],
  ])('%p leaves %s', (command, after) => {
    expect(letters(run(example(), command))).toBe(after);
  });

  it('that change nothing make no step', () => {
    const handIn = example();
    for (const command of [
      { kind: 'movePageBy', handInId: 'hand-in-1', pageId: 'page-a', by: -1 },
      { kind: 'setLight', ...meant('a'), finish: 'daylight', light: PLAIN_LIGHT, label: { key: 'light' } },
      {
        kind: 'setRecipe',
        handInId: 'hand-in-1',
        pageId: 'page-gone',
        from: handIn.pages[0]!.recipe,
        to: handIn.pages[0]!.recipe,
        label: { key: 'edges' },
      },
      { kind: 'retakePage', handInId: 'hand-in-1', pageId: 'page-gone', source: source('f') },
    ] satisfies Command[])
      expect(planCommand(command, handIn, newId)).toBeNull();
    expect(planCommand({ kind: 'turnPages', ...meant('a'), turns: 1 }, null, newId)).toBeNull();
  });

  it('set only what the person changed: what another screen set meanwhile stays', () => {
    const handIn = example();
    const seen = handIn.pages[0]!.recipe;
    const elsewhere = run(handIn, {
      kind: 'setLight',
      ...meant('a'),
      finish: 'press',
      light: PLAIN_LIGHT,
      label: { key: 'finish' },
    });
    const after = run(elsewhere, {
      kind: 'setRecipe',
      handInId: 'hand-in-1',
      pageId: 'page-a',
      from: seen,
      to: { ...seen, sheet: 'letter' },
      label: { key: 'edges' },
    });
    expect(after.pages[0]!.recipe).toMatchObject({ finish: 'press', sheet: 'letter' });
  });

  it('note what was found once: on a spread the second half has the same id wherever it is found', () => {
    const pending = apply(example(), [
      {
        kind: 'addPage',
        handInId: 'hand-in-1',
        pageId: 'page-new',
        ...source('f'),
        recipe: pendingRecipe(100, 141, 'pencil', 'spread'),
      },
    ]);
    const found: Command = {
      kind: 'noteFound',
      handInId: 'hand-in-1',
      pageId: 'page-new',
      originalId: 'f',
      width: 100,
      height: 141,
      pages: [
        { recipe: wholePhotoRecipe(100, 141, 'daylight'), findings: ['glare'] },
        { recipe: wholePhotoRecipe(100, 141, 'daylight'), findings: [] },
      ],
    };
    const [here, there] = [planCommand(found, pending, newId)!, planCommand(found, pending, newId)!];
    const both = apply(apply(pending, here.changes), there.changes);
    expect(letters(both)).toBe('abcdeff');
    expect(both.pages[5]).toMatchObject({ findings: ['glare'], recipe: { finish: 'pencil' } });
    // it was set by hand meanwhile
    expect(planCommand(found, both, newId)).toBeNull();
  });

  it('make two pages of an open book, and one again, as it was', () => {
    const before = example();
    const half = { ...wholePhotoRecipe(100, 141, 'daylight'), quarterTurns: 1, uprightConfidence: 1 } as const;
    const split: Command = {
      kind: 'splitSpread',
      handInId: 'hand-in-1',
      pageId: 'page-b',
      originalId: before.pages[1]!.originalId,
      pages: [
        { recipe: half, findings: ['glare'] },
        { recipe: half, findings: [] },
      ],
    };
    const { changes, step } = planCommand(split, before, newId)!;
    const after = apply(before, changes);
    expect(letters(after)).toBe('abbcde');
    const { finish, light } = before.pages[1]!.recipe;
    expect(after.pages[1]).toMatchObject({ id: 'page-b', recipe: { ...half, finish, light }, findings: ['glare'] });
    expect(after.pages[2]).toMatchObject({ recipe: { ...half, finish, light }, findings: [] });
    const undone = apply(after, step!.inverse);
    expect(letters(undone)).toBe('abcde');
    expect(undone.pages[1]!.recipe).toEqual(before.pages[1]!.recipe);
    expect(letters(apply(undone, step!.forward))).toBe('abbcde');
    // another shot came in its place meanwhile
    expect(planCommand({ ...split, originalId: 'another' }, before, newId)).toBeNull();
  });

  it('put a photo with its reflection filled in the place of the first, and the first back, with what was found on each', () => {
    const before = run(run(example(), { kind: 'turnPages', ...meant('a'), turns: 1 }), {
      kind: 'noteFindings',
      handInId: 'hand-in-1',
      pageId: 'page-a',
      originalId: 'a',
      findings: ['glare'],
    });
    const fill: Command = {
      kind: 'fillGlare',
      handInId: 'hand-in-1',
      pageId: 'page-a',
      firstId: 'a',
      originalId: 'filled',
      findings: [],
    };
    const { changes, step } = planCommand(fill, before, newId)!;
    const after = apply(before, changes);
    expect(after.pages[0]).toMatchObject({ originalId: 'filled', findings: [], recipe: before.pages[0]!.recipe });
    expect(apply(after, step!.inverse).pages[0]).toEqual(before.pages[0]);
    expect(planCommand({ ...fill, firstId: 'another' }, before, newId)).toBeNull();
  });

  it('turn a page as it was found to be read, but not one that was turned by hand meanwhile', () => {
    const pending = pendingRecipe(100, 141, 'pencil', 'sheet');
    const added = { kind: 'addPage', handInId: 'hand-in-1', pageId: 'page-new', ...source('f') } as const;
    const recipe = { ...wholePhotoRecipe(100, 141, 'daylight'), quarterTurns: 1, uprightConfidence: 0.98 } as const;
    const size = { originalId: 'f', width: 100, height: 141 };
    const found: Command = {
      kind: 'noteFound',
      handInId: 'hand-in-1',
      pageId: 'page-new',
      ...size,
      pages: [{ recipe, findings: [] }],
    };
    const turnOf = (begun: Recipe) => {
      const before = apply(example(), [{ ...added, recipe: begun }]);
      return apply(before, planCommand(found, before, newId)!.changes).pages[5]!.recipe;
    };
    expect(turnOf(pending)).toMatchObject({ quarterTurns: 1, uprightConfidence: 0.98 });
    expect(turnOf(turnRecipe(pending, 2))).toMatchObject({ quarterTurns: 2, uprightConfidence: 1 });
  });
});

const ids = fc.subarray(['page-a', 'page-b', 'page-c', 'page-d', 'page-e'], { minLength: 1 });
const handInId = fc.constant('hand-in-1');
const commands: fc.Arbitrary<Command> = fc.oneof(
  fc.record({ kind: fc.constant('deletePages' as const), handInId, pageIds: ids }),
  fc.record({
    kind: fc.constant('turnPages' as const),
    handInId,
    pageIds: ids,
    turns: fc.constantFrom(1 as const, 2 as const, 3 as const),
  }),
  fc.record({ kind: fc.constant('leaveOutPages' as const), handInId, pageIds: ids, leftOut: fc.boolean() }),
  fc.record({
    kind: fc.constant('movePagesTo' as const),
    handInId,
    pageIds: ids,
    number: fc.integer({ min: 1, max: 6 }),
  }),
  fc.record({ kind: fc.constant('reverseOrder' as const), handInId }),
  fc.record({ kind: fc.constant('duplicatePages' as const), handInId, pageIds: ids }),
  fc.record({
    kind: fc.constant('setLight' as const),
    handInId,
    pageIds: ids,
    finish: fc.constantFrom('press' as const, 'pencil' as const),
    light: fc.constant(PLAIN_LIGHT),
    label: fc.constant({ key: 'light' as const }),
  }),
  fc.record({
    kind: fc.constant('changeHandIn' as const),
    handInId,
    title: fc.constantFrom('A', 'B'),
    paper: fc.constantFrom('a4' as const, 'letter' as const),
    binding: fc.record({ cover: fc.boolean() }),
    label: fc.constant({ key: 'name' as const }),
  }),
);
const seen = (handIn: HandIn): unknown => ({
  ...handIn,
  changedAtMs: 0,
  pages: shownPages(handIn).map((page) => ({ ...page, recipe: { ...page.recipe, uprightConfidence: null } })),
});

it('every undoable command is taken back as if it had not been, and done again as it was', () => {
  fc.assert(
    fc.property(commands, (command) => {
      const before = example();
      const plan = planCommand(command, before, newId);
      if (plan === null) return;
      const after = apply(before, plan.changes);
      const back = apply(after, plan.step!.inverse);
      expect(seen(back)).toEqual(seen(before));
      expect(seen(apply(back, plan.step!.forward))).toEqual(seen(after));
    }),
  );
});

import fc from 'fast-check';
import { wholePhotoRecipe } from '../recipe/plainRecipe';
import type { Recipe } from '../recipe/recipe';
import type { HandIn } from './handIn';
import { applyOperation, type Operation } from './operation';

/*
 * Two linked screens at work at once, the line coming and going: each edits what it sees, which may be out of date, keeps what
 * is not yet up, and now and then fetches what the server has and lays its own on top.
 */
interface Screen {
  seen: HandIn;
  readonly waiting: Operation[];
}
const recipe = wholePhotoRecipe(300, 424, 'daylight');
const stamp = (id: number) => ({ id: `op-${id}`, handInId: 'h', atMs: id });
const withOperations = (handIn: HandIn, operations: readonly Operation[]): HandIn =>
  operations.reduce<HandIn>((state, operation) => applyOperation(state, operation) ?? state, handIn);

type Act = {
  readonly screen: 0 | 1;
  readonly what: 'add' | 'turn' | 'finish' | 'move' | 'order' | 'remove' | 'restore' | 'leaveOut' | 'send' | 'fetch';
  readonly a: number;
  readonly b: number;
};
const act: fc.Arbitrary<Act> = fc.record({
  screen: fc.constantFrom(0 as const, 1 as const),
  what: fc.constantFrom(
    'add',
    'add',
    'turn',
    'turn',
    'finish',
    'finish',
    'move',
    'order',
    'remove',
    'restore',
    'leaveOut',
    'send',
    'send',
    'fetch',
  ),
  a: fc.nat(1000),
  b: fc.nat(1000),
});

function operationOf({ what, a, b }: Act, { pages }: HandIn, n: number): Operation | null {
  if (what === 'add')
    return {
      ...stamp(n),
      kind: 'addPage',
      pageId: `page-${n}`,
      originalId: 'o',
      fileName: 'a.jpg',
      width: 300,
      height: 424,
      recipe,
      ...(a % 2 === 0 || pages.length === 0 ? {} : { afterPageId: pages[b % pages.length]!.id }),
    };
  if (pages.length === 0) return null;
  const page = pages[a % pages.length]!;
  const other = pages[b % pages.length]!;
  const set = (change: Partial<Recipe>, field: 'quarterTurns' | 'finish'): Operation => ({
    ...stamp(n),
    kind: 'setRecipe',
    pageId: page.id,
    recipe: { ...page.recipe, ...change },
    fields: [field],
  });
  switch (what) {
    case 'turn':
      return set({ quarterTurns: (b % 4) as Recipe['quarterTurns'] }, 'quarterTurns');
    case 'finish':
      return set({ finish: (['daylight', 'pencil', 'press'] as const)[b % 3]! }, 'finish');
    case 'move':
      return { ...stamp(n), kind: 'movePage', pageId: page.id, afterPageId: b % 3 === 0 ? null : other.id };
    case 'order':
      return {
        ...stamp(n),
        kind: 'orderPages',
        pageIds: pages
          .map(({ id }) => id)
          .sort(
            (x, y) => ((x.length * a + Number(x.slice(5)) * b) % 7) - ((y.length * a + Number(y.slice(5)) * b) % 7),
          ),
      };
    case 'leaveOut':
      return { ...stamp(n), kind: 'leaveOut', pageId: page.id, leftOut: b % 2 === 0 };
    case 'remove':
      return { ...stamp(n), kind: 'removePage', pageId: page.id };
    default:
      return { ...stamp(n), kind: 'restorePage', pageId: page.id };
  }
}

it('two screens end with the same pages, none lost or doubled, each field as it was last set', () => {
  fc.assert(
    fc.property(fc.array(act, { minLength: 50, maxLength: 400 }), (acts) => {
      let server = applyOperation(null, { ...stamp(0), kind: 'createHandIn', title: 'Set 4', paper: 'auto' })!;
      const arrived: Operation[] = [];
      const screens: readonly [Screen, Screen] = [
        { seen: server, waiting: [] },
        { seen: server, waiting: [] },
      ];
      const send = (screen: Screen): void => {
        const next = screen.waiting.shift();
        if (next === undefined) return;
        server = withOperations(server, [next]);
        arrived.push(next);
      };
      const fetch = (screen: Screen): void => void (screen.seen = withOperations(server, screen.waiting));
      acts.forEach((each, i) => {
        const screen = screens[each.screen];
        if (each.what === 'send') return send(screen);
        if (each.what === 'fetch') return fetch(screen);
        const operation = operationOf(each, screen.seen, i + 1);
        if (operation === null) return;
        screen.seen = withOperations(screen.seen, [operation]);
        screen.waiting.push(operation);
      });
      for (const screen of screens) while (screen.waiting.length > 0) send(screen);
      for (const screen of screens) fetch(screen);

      expect(screens[0].seen).toEqual(server);
      expect(screens[1].seen).toEqual(server);
      const added = arrived.flatMap((operation) => (operation.kind === 'addPage' ? [operation.pageId] : []));
      expect(server.pages.map(({ id }) => id).sort()).toEqual([...added].sort());
      for (const page of server.pages) {
        const sets = arrived.flatMap((operation) =>
          operation.kind === 'setRecipe' && operation.pageId === page.id ? [operation] : [],
        );
        expect(page.recipe.quarterTurns).toBe(
          sets.findLast(({ fields }) => fields!.includes('quarterTurns'))?.recipe.quarterTurns ?? recipe.quarterTurns,
        );
        expect(page.recipe.finish).toBe(
          sets.findLast(({ fields }) => fields!.includes('finish'))?.recipe.finish ?? recipe.finish,
        );
        const removed = arrived.findLast(
          (operation) =>
            (operation.kind === 'removePage' || operation.kind === 'restorePage') && operation.pageId === page.id,
        );
        expect(page.removedAtMs !== null).toBe(removed?.kind === 'removePage');
      }
    }),
    { numRuns: 150 },
  );
});

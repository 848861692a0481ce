import { wholePhotoRecipe } from '../../core/work/recipe/plainRecipe';
import type { Operation } from '../../core/work/hand-in/operation';
import { discardedWith, overtakes, planSending, type OutboxEntry, type OutboxItem } from './outbox';

const refused = { code: 'BODY_INVALID', message: 'no', facts: {} } as const;
const recipe = wholePhotoRecipe(10, 14, 'daylight');
let lastId = 0;
const operation = (what: object, handInId = 'h'): OutboxItem => ({
  kind: 'operation',
  operation: { id: `op-${++lastId}`, handInId, atMs: 1, ...what } as Operation,
});
const create = (handInId = 'h'): OutboxItem =>
  operation({ kind: 'createHandIn', title: 'Set 4', paper: 'auto' }, handInId);
const add = (pageId: string, originalId = 'o', afterPageId?: string): OutboxItem =>
  operation({
    kind: 'addPage',
    pageId,
    originalId,
    fileName: 'a.jpg',
    width: 10,
    height: 14,
    recipe,
    ...(afterPageId === undefined ? {} : { afterPageId }),
  });
const turn = (pageId: string): OutboxItem => operation({ kind: 'setRecipe', pageId, recipe, fields: ['quarterTurns'] });
const order = (...pageIds: string[]): OutboxItem => operation({ kind: 'orderPages', pageIds });
const original = (originalId = 'o'): OutboxItem => ({ kind: 'original', originalId });
const boundFile: OutboxItem = { kind: 'boundFile', handInId: 'h' };
const no = (item: OutboxItem): OutboxItem => ({ ...item, refused });
const outbox = (...items: readonly OutboxItem[]): OutboxEntry[] => items.map((item, i) => ({ key: i + 1, item }));
const keysOf = (entries: readonly OutboxEntry[]): number[] => entries.map(({ key }) => key);
const plan = (entries: readonly OutboxEntry[], resting: readonly number[] = [], underWay: readonly number[] = []) => {
  const {
    ready,
    refused: not,
    held,
  } = planSending(
    entries,
    (key) => resting.includes(key),
    (key) => underWay.includes(key),
  );
  return { ready: keysOf(ready), refused: keysOf(not), held: keysOf(held) };
};

describe('what may go up', () => {
  it.each<[string, OutboxItem[], number[], number[]]>([
    ['everything, where nothing was refused', [create(), turn('a'), order('a'), boundFile], [1, 2, 3, 4], []],
    ['not a page before its photo', [create(), original(), add('a'), turn('a'), turn('b')], [1, 2, 5], [3, 4]],
    ['not a page whose photo was refused, but another', [no(original()), add('a'), add('b', 'other')], [3], [2]],
    [
      'not what touches a page that was refused',
      [no(add('a')), turn('a'), turn('b'), order('b', 'a'), order('b')],
      [3],
      [2, 4, 5],
    ],
    ['a page behind one that was refused: it is added there later', [no(add('a')), add('b', 'other', 'a')], [2], []],
    [
      'nothing of a hand-in whose making was refused',
      [no(create()), turn('a'), boundFile, create('other')],
      [4],
      [2, 3],
    ],
    [
      'not a second change of the settings before the first',
      [no(operation({ kind: 'changeHandIn', title: '' })), operation({ kind: 'changeHandIn', paper: 'a4' }), turn('a')],
      [3],
      [2],
    ],
    [
      'not the deleting of a hand-in before what came before it',
      [no(turn('a')), operation({ kind: 'deleteHandIn' })],
      [],
      [2],
    ],
  ])('is %s', (_name, items, ready, held) => {
    const planned = plan(outbox(...items));
    expect([planned.ready, planned.held]).toEqual([ready, held]);
  });

  it('adds pages in their order while their photos are on their way, and lets nobody wait for one that is stuck', () => {
    const entries = outbox(original('a'), add('page-a', 'a'), add('page-b', 'b'), turn('page-c'));
    expect(plan(entries, [], [1])).toEqual({ ready: [4], refused: [], held: [1, 2, 3] });
    expect(plan(entries, [1])).toEqual({ ready: [3, 4], refused: [], held: [1, 2] });
    expect(plan(outbox(no(original('a')), add('page-a', 'a'), add('page-b', 'b')))).toEqual({
      ready: [3],
      refused: [1],
      held: [2],
    });
  });

  it('waits behind what is tried again later, as behind what was refused', () => {
    expect(plan(outbox(add('a'), turn('a'), turn('b')), [1])).toEqual({ ready: [3], refused: [], held: [1, 2] });
  });
});

describe('what goes with something that is discarded', () => {
  const discard = (items: readonly OutboxItem[], key: number): readonly number[] =>
    [...discardedWith(outbox(...items), outbox(...items)[key - 1]!)].sort();
  it('is what means nothing without it, and no more', () => {
    expect(discard([no(turn('a')), turn('a'), turn('b')], 1)).toEqual([1]);
    expect(discard([no(add('a')), turn('a'), turn('b'), order('b', 'a')], 1)).toEqual([1, 2]);
    expect(discard([no(original()), add('a'), turn('a'), add('b', 'other')], 1)).toEqual([1, 2, 3]);
    expect(discard([no(create()), add('a'), boundFile, turn('z')], 1)).toEqual([1, 2, 3, 4]);
  });
});

it('operations that go up before earlier ones of their hand-in are known to overtake them', () => {
  const entries = outbox(no(add('a')), turn('b'), create('other'));
  expect(overtakes(entries, [entries[1]!])).toBe(true);
  expect(overtakes(entries, [entries[2]!])).toBe(false);
  expect(overtakes(entries, [entries[0]!, entries[1]!])).toBe(false);
});

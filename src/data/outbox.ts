import type { WireError } from '../../core/errors';
import type { Operation } from '../../core/work/hand-in/operation';

/*
 * What waits to go up. An item leaves only when the server has acknowledged it, or a person discards it. What the server
 * refuses stays, applied on this device, and holds back only what depends on it.
 */

/** Bytes are named, not copied. */
export type OutboxItem = (
  | { readonly kind: 'original'; readonly originalId: string }
  | { readonly kind: 'operation'; readonly operation: Operation }
  | { readonly kind: 'boundFile'; readonly handInId: string }
  | { readonly kind: 'profile' }
) & { readonly refused?: WireError };

export interface OutboxEntry {
  /** In the order in which they came. */
  readonly key: number;
  readonly item: OutboxItem;
}

/** Which things an operation touches: two that share one must arrive in their order. */
function subjectsOf(operation: Operation): readonly string[] {
  const page = (id: string): string => `page ${operation.handInId} ${id}`;
  const order = `order ${operation.handInId}`;
  switch (operation.kind) {
    case 'createHandIn':
    case 'deleteHandIn':
      return [];
    case 'changeHandIn':
      return [`settings ${operation.handInId}`];
    case 'orderPages':
      return [order, ...operation.pageIds.map(page)];
    case 'movePage':
      return [order, page(operation.pageId), ...(operation.afterPageId === null ? [] : [page(operation.afterPageId)])];
    default:
      return [page(operation.pageId)];
  }
}

/** The hand-in an item is about; null where it is about none. */
export const handInOf = (item: OutboxItem): string | null =>
  item.kind === 'operation' ? item.operation.handInId : item.kind === 'boundFile' ? item.handInId : null;

const bringsOriginal = (
  operation: Operation,
): operation is Extract<Operation, { originalId: string }> & { kind: 'addPage' | 'replaceOriginal' } =>
  operation.kind === 'addPage' || operation.kind === 'replaceOriginal';

/** Whether operations go up while an earlier one of the same hand-in does not: what then is so on the server is other than here. */
export function overtakes(outbox: readonly OutboxEntry[], sent: readonly OutboxEntry[]): boolean {
  const keys = new Set(sent.map(({ key }) => key));
  return sent.some(({ key, item }) =>
    outbox.some(
      (other) =>
        other.key < key &&
        !keys.has(other.key) &&
        other.item.kind === 'operation' &&
        handInOf(other.item) === handInOf(item),
    ),
  );
}

/** Tells, item by item in their order, whether one must wait for others that were stopped before it. */
function createHolds(outbox: readonly OutboxEntry[], isResting: (key: number) => boolean) {
  const stopped = new Set<string>();
  const onTheirWay = new Set(outbox.flatMap(({ item }) => (item.kind === 'original' ? [item.originalId] : [])));
  /** Photos that arrive by themselves soon: refused ones and those that are tried again later do not. */
  const soon = new Set(
    outbox.flatMap(({ key, item }) =>
      item.kind === 'original' && item.refused === undefined && !isResting(key) ? [item.originalId] : [],
    ),
  );
  return {
    /** A page waits for its photo; what touches a thing waits for what touched it before; all of a hand-in waits for its making. */
    holds(item: OutboxItem): boolean {
      if (item.kind === 'boundFile') return stopped.has(`made ${item.handInId}`);
      if (item.kind !== 'operation') return false;
      const { operation } = item;
      if (bringsOriginal(operation) && onTheirWay.has(operation.originalId)) return true;
      // pages are added in their order, as long as that costs but a moment
      if (operation.kind === 'addPage' && stopped.has(`adding ${operation.handInId}`)) return true;
      if (operation.kind === 'deleteHandIn' && stopped.has(`any ${operation.handInId}`)) return true;
      return stopped.has(`made ${operation.handInId}`) || subjectsOf(operation).some((subject) => stopped.has(subject));
    },
    /** Notes that an item does not go up now. */
    stop(item: OutboxItem): void {
      if (item.kind !== 'operation') return;
      const { operation } = item;
      stopped.add(`any ${operation.handInId}`);
      if (
        operation.kind === 'addPage' &&
        (soon.has(operation.originalId) || stopped.has(`adding ${operation.handInId}`))
      )
        stopped.add(`adding ${operation.handInId}`);
      if (operation.kind === 'createHandIn' || operation.kind === 'deleteHandIn')
        stopped.add(`made ${operation.handInId}`);
      for (const subject of subjectsOf(operation)) stopped.add(subject);
    },
  };
}

export interface SendingPlan {
  /** What may go up now, in order. */
  readonly ready: readonly OutboxEntry[];
  readonly refused: readonly OutboxEntry[];
  /** What waits for something that is refused, resting or under way. */
  readonly held: readonly OutboxEntry[];
}

/**
 * What may go up now.
 * @param outbox - in the order of keys
 * @param isResting - says of an item that it was tried and is tried again later
 * @param isUnderWay - says of an item that it is being sent
 */
export function planSending(
  outbox: readonly OutboxEntry[],
  isResting: (key: number) => boolean,
  isUnderWay: (key: number) => boolean,
): SendingPlan {
  const ready: OutboxEntry[] = [];
  const refused: OutboxEntry[] = [];
  const held: OutboxEntry[] = [];
  const holds = createHolds(outbox, isResting);
  for (const entry of outbox) {
    const { key, item } = entry;
    if (item.refused !== undefined) refused.push(entry);
    else if (isResting(key) || isUnderWay(key) || holds.holds(item)) held.push(entry);
    else {
      ready.push(entry);
      continue;
    }
    holds.stop(item);
  }
  return { ready, refused, held };
}

/** The keys that go when an item is discarded: itself, and what means nothing without it. */
export function discardedWith(outbox: readonly OutboxEntry[], discarded: OutboxEntry): readonly number[] {
  const gone = new Set<number>([discarded.key]);
  const pages = new Set<string>();
  const handIns = new Set<string>();
  const note = (operation: Operation): void => {
    if (operation.kind === 'createHandIn') handIns.add(operation.handInId);
    if (operation.kind === 'addPage') pages.add(`${operation.handInId} ${operation.pageId}`);
  };
  const { item: first } = discarded;
  if (first.kind === 'operation') note(first.operation);
  for (const { key, item } of outbox) {
    const owner = handInOf(item);
    if (owner !== null && handIns.has(owner)) gone.add(key);
    if (item.kind !== 'operation') continue;
    const { operation } = item;
    const needsPhoto =
      first.kind === 'original' && bringsOriginal(operation) && operation.originalId === first.originalId;
    const needsPage = 'pageId' in operation && pages.has(`${operation.handInId} ${operation.pageId}`);
    if (!needsPhoto && !needsPage) continue;
    gone.add(key);
    note(operation);
  }
  return [...gone];
}

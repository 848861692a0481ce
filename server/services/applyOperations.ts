import type { AppliedView } from '../../contract/views';
import { FotoplanError } from '../../core/errors';
import type { HandIn } from '../../core/work/hand-in/handIn';
import { applyOperation, type Operation } from '../../core/work/hand-in/operation';
import { OUTLINE_PROBLEMS, outlineProblem, readRecipe, type Outline } from '../../core/work/recipe/recipe';
import type { Database } from '../database';
import type { ChangeRepository } from '../repositories/changeRepository';
import type { HandInRepository } from '../repositories/handInRepository';
import type { OperationRepository } from '../repositories/operationRepository';
import type { OriginalRepository } from '../repositories/originalRepository';

interface Repositories {
  readonly handIns: HandInRepository;
  readonly operations: OperationRepository;
  readonly originals: OriginalRepository;
  readonly changes: ChangeRepository;
}

/** What a hand-in can hold; each change looks at all of its pages. */
const MOST_PAGES = 2000;

/** Applies operations in order, each once, all of them or none. What it throws names the operation that was refused. */
export function createApplyOperations(db: Database, { handIns, operations, originals, changes }: Repositories) {
  /** The hand-ins that a batch works on: each is read once, and written once at the end. */
  function openBatch(ownerId: string, nowMs: number) {
    const open = new Map<string, { readonly before: HandIn | null; readonly now: HandIn | null }>();
    const of = (handInId: string): { readonly before: HandIn | null; readonly now: HandIn | null } => {
      let found = open.get(handInId);
      if (found === undefined) {
        const stored = handIns.find(ownerId, handInId);
        found = { before: stored, now: stored };
        open.set(handInId, found);
      }
      return found;
    };
    const write = (handInId: string): void => {
      const { before, now } = of(handInId);
      if (now !== null && now !== before) handIns.save(ownerId, now, before, nowMs);
      open.set(handInId, { before: now, now });
    };
    return {
      find: (handInId: string): HandIn | null => of(handInId).now,
      /** @returns false where the id is another owner's */
      set(handIn: HandIn): boolean {
        const { before } = of(handIn.id);
        // what is new is written at once, since only that tells whether its id is free
        if (before === null && !handIns.save(ownerId, handIn, null, nowMs)) return false;
        open.set(handIn.id, { before: before ?? handIn, now: handIn });
        return true;
      },
      deleteForGood(handInId: string): void {
        write(handInId);
        handIns.deleteForGood(ownerId, handInId, nowMs);
        open.set(handInId, { before: null, now: null });
      },
      writeAll: (): void => [...open.keys()].forEach(write),
    };
  }
  type Batch = ReturnType<typeof openBatch>;

  /** @returns false where it was applied before */
  const applyOne = (ownerId: string, sent: Operation, batch: Batch): boolean => {
    const operation = 'recipe' in sent ? { ...sent, recipe: readRecipe(sent.recipe) } : sent;
    if (!operations.claim(ownerId, operation.id)) return false;
    // another screen deleted it for good: what comes late has nothing to change
    if (handIns.isGone(ownerId, operation.handInId)) return true;
    const before = batch.find(operation.handInId);
    const notHere = (): FotoplanError =>
      new FotoplanError('NOT_FOUND', 'This hand-in is not here. Go back to the desk and open it again.');
    if (operation.kind === 'deleteHandIn') {
      if (before === null) throw notHere();
      batch.deleteForGood(operation.handInId);
      return true;
    }
    const bringsOriginal = operation.kind === 'addPage' || operation.kind === 'replaceOriginal';
    if (bringsOriginal && originals.type(ownerId, operation.originalId) === null) {
      // a page that was deleted for good needs no photo
      if (before?.deletedPageIds.includes(operation.pageId) === true) return true;
      throw new FotoplanError(
        'ORIGINAL_MISSING',
        `The photo “${operation.fileName}” has not arrived yet. Send it before its page.`,
      );
    }
    if (bringsOriginal) refuseBadOutline(operation.recipe.outline, operation.width, operation.height);
    const page = operation.kind === 'setRecipe' ? before?.pages.find((p) => p.id === operation.pageId) : undefined;
    if (operation.kind === 'setRecipe' && page !== undefined)
      refuseBadOutline(operation.recipe.outline, page.width, page.height);
    const after = applyOperation(before, operation);
    if (after !== null && after.pages.length > MOST_PAGES)
      throw new FotoplanError(
        'BODY_INVALID',
        `A hand-in holds ${MOST_PAGES} pages at most. Begin another one for the rest.`,
      );
    if (after === null || !batch.set(after)) throw notHere();
    if (bringsOriginal) originals.show(ownerId, operation.originalId);
    return true;
  };
  // the thread that writes bytes may write between: what is read here must still be so when it is written
  const applyAll = db.transaction((ownerId: string, list: readonly Operation[], nowMs: number): AppliedView => {
    const seqBefore = changes.last(ownerId);
    const batch = openBatch(ownerId, nowMs);
    let repeated = false;
    for (const operation of list) {
      try {
        if (!applyOne(ownerId, operation, batch)) repeated = true;
      } catch (error) {
        throw error instanceof FotoplanError
          ? new FotoplanError(error.code, error.message, { ...error.facts, operationId: operation.id })
          : error;
      }
    }
    batch.writeAll();
    for (const handInId of new Set(list.map((operation) => operation.handInId)))
      changes.note(ownerId, 'handIn', handInId);
    return { seqBefore, seq: changes.last(ownerId), repeated };
  });
  return (ownerId: string, list: readonly Operation[], nowMs: number): AppliedView =>
    applyAll.immediate(ownerId, list, nowMs);
}

function refuseBadOutline({ corners, bends }: Outline, width: number, height: number): void {
  const problem = outlineProblem(corners, width, height, bends);
  if (problem !== null) throw new FotoplanError('RECIPE_INVALID', OUTLINE_PROBLEMS[problem]);
}

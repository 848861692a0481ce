import type { AppliedView } from '../../contract/views';
import { FotoplanError } from '../../core/errors';
import { applyOperation, type Operation } from '../../core/handIn/operation';
import { outlineProblem, readRecipe, type Outline } from '../../core/recipe/recipe';
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

/** Applies operations in order, each once, all of them or none. What it throws names the operation that was refused. */
export function createApplyOperations(db: Database, { handIns, operations, originals, changes }: Repositories) {
  /** @returns false where it was applied before */
  const applyOne = (ownerId: string, sent: Operation, nowMs: number): boolean => {
    const operation = 'recipe' in sent ? { ...sent, recipe: readRecipe(sent.recipe) } : sent;
    if (!operations.claim(ownerId, operation.id)) return false;
    // another screen deleted it for good: what comes late has nothing to change
    if (handIns.isGone(ownerId, operation.handInId)) return true;
    const before = handIns.find(ownerId, operation.handInId);
    const notHere = (): FotoplanError => new FotoplanError('NOT_FOUND', 'This hand-in is not here. Go back to the desk and open it again.');
    if (operation.kind === 'deleteHandIn') {
      if (before === null) throw notHere();
      handIns.deleteForGood(ownerId, operation.handInId, nowMs);
      return true;
    }
    const bringsOriginal = operation.kind === 'addPage' || operation.kind === 'replaceOriginal';
    if (bringsOriginal && originals.type(ownerId, operation.originalId) === null) {
      // a page that was deleted for good needs no photo
      if (before?.deletedPageIds.includes(operation.pageId) === true) return true;
      throw new FotoplanError('ORIGINAL_MISSING', `The photo “${operation.fileName}” has not arrived yet. Send it before its page.`);
    }
    if (bringsOriginal) refuseBadOutline(operation.recipe.outline, operation.width, operation.height);
    const page = operation.kind === 'setRecipe' ? before?.pages.find((p) => p.id === operation.pageId) : undefined;
    if (operation.kind === 'setRecipe' && page !== undefined) refuseBadOutline(operation.recipe.outline, page.width, page.height);
    const after = applyOperation(before, operation);
    if (after === null || !handIns.save(ownerId, after, before, nowMs)) throw notHere();
    if (bringsOriginal) originals.show(ownerId, operation.originalId);
    return true;
  };
  // the thread that writes bytes may write between: what is read here must still be so when it is written
  const applyAll = db.transaction((ownerId: string, list: readonly Operation[], nowMs: number): AppliedView => {
    const seqBefore = changes.last(ownerId);
    let repeated = false;
    for (const operation of list) {
      try {
        if (!applyOne(ownerId, operation, nowMs)) repeated = true;
      } catch (error) {
        throw error instanceof FotoplanError ? new FotoplanError(error.code, error.message, { ...error.facts, operationId: operation.id }) : error;
      }
    }
    for (const handInId of new Set(list.map((operation) => operation.handInId))) changes.note(ownerId, 'handIn', handInId);
    return { seqBefore, seq: changes.last(ownerId), repeated };
  });
  return (ownerId: string, list: readonly Operation[], nowMs: number): AppliedView => applyAll.immediate(ownerId, list, nowMs);
}

function refuseBadOutline({ corners, bends }: Outline, width: number, height: number): void {
  const problem = outlineProblem(corners, width, height, bends);
  if (problem !== null) throw new FotoplanError('RECIPE_INVALID', problem);
}

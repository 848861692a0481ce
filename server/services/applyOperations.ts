import { FotoplanError } from '../../core/errors';
import { applyOperation, type Operation } from '../../core/handIn/operation';
import { outlineProblem, readRecipe, type Outline } from '../../core/recipe/recipe';
import type { Database } from '../database';
import type { HandInRepository } from '../repositories/handInRepository';
import type { OperationRepository } from '../repositories/operationRepository';
import type { OriginalRepository } from '../repositories/originalRepository';

interface Repositories {
  readonly handIns: HandInRepository;
  readonly operations: OperationRepository;
  readonly originals: OriginalRepository;
}

/** Applies operations in order, each once, all of them or none. */
export function createApplyOperations(db: Database, { handIns, operations, originals }: Repositories) {
  const applyOne = (ownerId: string, sent: Operation): void => {
    const operation = 'recipe' in sent ? { ...sent, recipe: readRecipe(sent.recipe) } : sent;
    if (!operations.claim(ownerId, operation.id)) return;
    const before = handIns.find(ownerId, operation.handInId);
    const bringsOriginal = operation.kind === 'addPage' || operation.kind === 'replaceOriginal';
    if (bringsOriginal && originals.type(ownerId, operation.originalId) === null) {
      throw new FotoplanError('ORIGINAL_MISSING', `The photo “${operation.fileName}” has not arrived yet. Send it before its page.`);
    }
    if (bringsOriginal) refuseBadOutline(operation.recipe.outline, operation.width, operation.height);
    const page = operation.kind === 'setRecipe' ? before?.pages.find((p) => p.id === operation.pageId) : undefined;
    if (operation.kind === 'setRecipe' && page !== undefined) refuseBadOutline(operation.recipe.outline, page.width, page.height);
    const after = applyOperation(before, operation);
    if (after === null || !handIns.save(ownerId, after, before)) {
      throw new FotoplanError('NOT_FOUND', 'This hand-in is not here. Go back to the desk and open it again.');
    }
  };
  // the thread that writes bytes may write between: what is read here must still be so when it is written
  const applyAll = db.transaction((ownerId: string, list: readonly Operation[]) => list.forEach((operation) => applyOne(ownerId, operation)));
  return (ownerId: string, list: readonly Operation[]): void => applyAll.immediate(ownerId, list);
}

function refuseBadOutline({ corners, bends }: Outline, width: number, height: number): void {
  const problem = outlineProblem(corners, width, height, bends);
  if (problem !== null) throw new FotoplanError('RECIPE_INVALID', problem);
}

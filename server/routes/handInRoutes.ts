import { setImmediate as otherRequests } from 'node:timers/promises';
import { Router } from 'express';
import { FotoplanError } from '../../core/errors';
import type { Operation } from '../../core/work/hand-in/operation';
import type { AppliedView } from '../../contract/views';
import type { LiveEvents } from '../events/liveEvents';
import { ownerOf, screenOf } from '../ownerSession';
import type { HandInRepository } from '../repositories/handInRepository';
import { validatedOperation } from '../validated';

const MOST_OPERATIONS = 200;
/** Two hundred recipes take some time to look through: others are answered in between. */
const CHECKED_AT_ONCE = 20;

export interface HandInServices {
  readonly handIns: HandInRepository;
  readonly apply: (ownerId: string, operations: readonly Operation[], nowMs: number) => AppliedView;
  readonly events: LiveEvents;
  readonly now: () => number;
}

export function handInRoutes({ handIns, apply, events, now }: HandInServices): Router {
  const router = Router();
  router.get('/hand-ins/:handInId', (req, res) => {
    const handIn = handIns.find(ownerOf(req), req.params.handInId);
    if (handIn === null)
      throw new FotoplanError('NOT_FOUND', 'This hand-in is not here. Go back to the desk and open it again.');
    res.json(handIn);
  });
  router.post('/operations', async (req, res) => {
    const list = (req.body as { operations?: unknown } | undefined)?.operations;
    if (!Array.isArray(list) || list.length === 0 || list.length > MOST_OPERATIONS) {
      throw new FotoplanError('BODY_INVALID', `operations must be a list of 1 to ${MOST_OPERATIONS}.`);
    }
    const operations: Operation[] = [];
    for (const raw of list) {
      operations.push(checkedOperation(raw));
      if (operations.length % CHECKED_AT_ONCE === 0) await otherRequests();
    }
    // whose it is may have changed meanwhile, by linking
    const ownerId = ownerOf(req);
    const applied: AppliedView = apply(ownerId, operations, now());
    events.publish(ownerId, { kind: 'changed', seq: applied.seq }, screenOf(req));
    res.json(applied);
  });
  return router;
}

/** What is refused is named, so that its sender need not guess which of two hundred it was. */
function checkedOperation(raw: unknown): Operation {
  try {
    return validatedOperation(raw);
  } catch (error) {
    const id = (raw as { id?: unknown } | null)?.id;
    if (error instanceof FotoplanError && typeof id === 'string')
      throw new FotoplanError(error.code, error.message, { ...error.facts, operationId: id.slice(0, MAX_ID) });
    throw error;
  }
}
const MAX_ID = 40;

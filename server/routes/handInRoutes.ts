import { Router } from 'express';
import { FotoplanError } from '../../core/errors';
import type { Operation } from '../../core/handIn/operation';
import type { HandInsView } from '../../contract/views';
import type { LiveEvents } from '../events/liveEvents';
import { ownerOf, screenOf } from '../ownerSession';
import type { HandInRepository } from '../repositories/handInRepository';
import { validatedOperation } from '../validated';

const MOST_OPERATIONS = 200;

export function handInRoutes(handIns: HandInRepository, apply: (ownerId: string, operations: readonly Operation[]) => void, events: LiveEvents): Router {
  const router = Router();
  router.get('/hand-ins', (req, res) => {
    const view: HandInsView = { handIns: handIns.list(ownerOf(req)) };
    res.json(view);
  });
  router.get('/hand-ins/:handInId', (req, res) => {
    const handIn = handIns.find(ownerOf(req), req.params.handInId);
    if (handIn === null) throw new FotoplanError('NOT_FOUND', 'This hand-in is not here. Go back to the desk and open it again.');
    res.json(handIn);
  });
  router.post('/operations', (req, res) => {
    const list = (req.body as { operations?: unknown } | undefined)?.operations;
    if (!Array.isArray(list) || list.length === 0 || list.length > MOST_OPERATIONS) {
      throw new FotoplanError('BODY_INVALID', `operations must be a list of 1 to ${MOST_OPERATIONS}.`);
    }
    const ownerId = ownerOf(req);
    const checked = list.map(validatedOperation);
    apply(ownerId, checked);
    for (const handInId of new Set(checked.map((operation) => operation.handInId))) events.publish(ownerId, { kind: 'handIn', handInId }, screenOf(req));
    res.json({ applied: list.length });
  });
  return router;
}

import { createHash } from 'node:crypto';
import { Router } from 'express';
import { ChangesQuery } from '../../contract/changesQuery';
import type { ChangesView } from '../../contract/views';
import { ownerOf, screenOf } from '../ownerSession';
import type { ChangeRepository } from '../repositories/changeRepository';
import type { HandInRepository } from '../repositories/handInRepository';
import type { OwnerRepository } from '../repositories/ownerRepository';
import type { ScreenRepository } from '../repositories/screenRepository';
import { validated } from '../validated';

/** How many changed things one answer holds; the rest is asked for. */
const MAX_CHANGES = 100;

export interface ChangeServices {
  readonly changes: ChangeRepository;
  readonly handIns: HandInRepository;
  readonly owners: OwnerRepository;
  readonly screens: ScreenRepository;
}

const shownId = (ownerId: string): string => createHash('sha256').update(ownerId).digest('base64url').slice(0, 16);

/** What is new since a change the asker knows. */
export function changeRoutes({ changes, handIns, owners, screens }: ChangeServices): Router {
  const router = Router();
  router.get('/changes', (req, res) => {
    const ownerId = ownerOf(req);
    const { since: asked } = validated(ChangesQuery, { ...req.query });
    // who knows a number that was never given out knew another database: everything is told
    const since = asked > changes.last(ownerId) ? 0 : asked;
    const left = screens.leftOwner(screenOf(req));
    const list = changes.since(ownerId, since, MAX_CHANGES);
    const subjects = (kind: string): string[] =>
      list.filter((each) => each.kind === kind).map(({ subject }) => subject);
    const changed = subjects('handIn');
    const found = changed.flatMap((id) => handIns.find(ownerId, id) ?? []);
    const view: ChangesView = {
      owner: shownId(ownerId),
      ...(left === null ? {} : { left: shownId(left) }),
      upTo: list.at(-1)?.seq ?? changes.last(ownerId),
      more: list.length === MAX_CHANGES,
      handIns: found,
      gone: changed.filter((id) => handIns.isGone(ownerId, id)),
      boundFiles: subjects('boundFile'),
      ...(subjects('profile').length > 0 ? { profile: owners.profile(ownerId) } : {}),
    };
    res.json(view);
  });
  return router;
}

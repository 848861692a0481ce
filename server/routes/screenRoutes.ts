import { randomInt } from 'node:crypto';
import { Router } from 'express';
import { LinkBody, ProfileBody } from '../../contract/profileBody';
import type { JoinView, LinkCodeView, LinkedView, ProfileAnswer, ProfileView, ScreensView } from '../../contract/views';
import { FotoplanError } from '../../core/errors';
import type { LiveEvents } from '../events/liveEvents';
import type { Limits } from '../limits';
import { ownerOf, screenOf, sha256 } from '../ownerSession';
import type { ChangeRepository } from '../repositories/changeRepository';
import type { OwnerRepository } from '../repositories/ownerRepository';
import type { ScreenRepository } from '../repositories/screenRepository';
import { validated } from '../validated';

/** No 0 and O, no 1, I and L: a code is read out and typed. */
const SIGNS = '23456789ABCDEFGHJKMNPQRSTUVWXYZ';
const CODE_LENGTH = 8;
const CODE_LIVES_MS = 5 * 60_000;
const TRIES_A_MINUTE = 10;

export interface ScreenServices {
  readonly screens: ScreenRepository;
  readonly owners: OwnerRepository;
  readonly changes: ChangeRepository;
  readonly events: LiveEvents;
  readonly limits: Limits;
  readonly now: () => number;
}

/** A person's screens, how they come together, and what all of them know of the person. */
export function screenRoutes({ screens, owners, changes, events, limits, now }: ScreenServices): Router {
  const router = Router();
  const limit = limits.aMinute(TRIES_A_MINUTE, 'Too many tries. Wait a minute, then type the code again.', ownerOf);

  router.get('/events', (req, res) => events.open(ownerOf(req), screenOf(req), changes.last(ownerOf(req)), res));
  router.get(
    '/screens',
    (req, res) => void res.json({ screens: screens.list(ownerOf(req), screenOf(req)) } satisfies ScreensView),
  );
  router.post('/link-codes', limit, (req, res) => {
    const code = Array.from({ length: CODE_LENGTH }, () => SIGNS[randomInt(SIGNS.length)]).join('');
    const expiresAtMs = now() + CODE_LIVES_MS;
    screens.addCode(ownerOf(req), screenOf(req), sha256(code), now(), expiresAtMs);
    const view: LinkCodeView = { code: `${code.slice(0, 4)}-${code.slice(4)}`, expiresAtMs };
    res.status(201).json(view);
  });
  const hashOfCode = (code: string): string => sha256(code.replaceAll(/[ -]/g, '').toUpperCase());
  const codeIsWrong = (): FotoplanError =>
    new FotoplanError('LINK_CODE_WRONG', 'This code has expired, or was mistyped. Ask the other screen for a new one.');
  router.post('/link/look', limit, (req, res) => {
    const join = screens.look(hashOfCode(validated(LinkBody, req.body).code), now());
    if (join === null) throw codeIsWrong();
    res.json(join satisfies JoinView);
  });
  router.post('/link', limit, (req, res) => {
    const { code } = validated(LinkBody, req.body);
    const from = ownerOf(req);
    const owner = screens.join(from, hashOfCode(code), now());
    if (owner === null) throw codeIsWrong();
    events.move(from, owner);
    events.publish(owner, { kind: 'screens' }, screenOf(req));
    res.json({ linked: true } satisfies LinkedView);
  });
  router.delete('/screens/:screenId', (req, res) => {
    const ownerId = ownerOf(req);
    const unlinked = screens.unlink(ownerId, req.params.screenId, now());
    if (unlinked === null) throw new FotoplanError('NOT_FOUND', 'This screen is not linked.');
    if (unlinked.left.length === 0) events.cutOff(ownerId, req.params.screenId);
    // they listen anew, as who they are now
    for (const id of unlinked.left) events.left(ownerId, id);
    events.publish(ownerId, { kind: 'screens' }, screenOf(req));
    events.publish(ownerId, { kind: 'changed', seq: changes.last(ownerId) }, '');
    res.status(204).end();
  });
  router.get(
    '/profile',
    (req, res) => void res.json({ profile: owners.profile(ownerOf(req)) } satisfies ProfileAnswer),
  );
  router.put('/profile', (req, res) => {
    const profile = JSON.parse(JSON.stringify(validated(ProfileBody, req.body))) as ProfileView;
    owners.setProfile(ownerOf(req), profile);
    events.publish(ownerOf(req), { kind: 'changed', seq: changes.note(ownerOf(req), 'profile', '') }, screenOf(req));
    res.json({ profile } satisfies ProfileAnswer);
  });
  return router;
}

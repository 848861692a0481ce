import { generateMnemonic } from '@scure/bip39';
import { wordlist } from '@scure/bip39/wordlists/english';
import { Router } from 'express';
import { DeleteEverythingBody, RecoverBody } from '../../contract/recoverBody';
import type { RecoveredView, RecoveryCodeView, RecoveryView } from '../../contract/views';
import { FotoplanError } from '../../core/errors';
import type { LiveEvents } from '../events/liveEvents';
import type { Limits } from '../limits';
import { forgetSession, ownerOf, screenOf, sha256 } from '../ownerSession';
import type { OwnerRepository } from '../repositories/ownerRepository';
import type { RecoveryRepository } from '../repositories/recoveryRepository';
import type { ScreenRepository } from '../repositories/screenRepository';
import { validated } from '../validated';

/** Twelve words of 2048: nobody guesses them, so their plain hash can be kept. */
const CODE_BITS = 128;
const TRIES_A_MINUTE = 10;

export interface RecoveryServices {
  readonly recovery: RecoveryRepository;
  readonly screens: ScreenRepository;
  readonly owners: OwnerRepository;
  readonly events: LiveEvents;
  readonly limits: Limits;
  readonly now: () => number;
}

const hashOf = (code: string): string =>
  sha256(
    code
      .toLowerCase()
      .split(/[\s,-]+/)
      .filter((word) => word !== '')
      .join(' '),
  );

/** Coming back without any device of before, and deleting everything. */
export function recoveryRoutes({ recovery, screens, owners, events, limits, now }: RecoveryServices): Router {
  const router = Router();
  const limit = limits.aMinute(TRIES_A_MINUTE, 'Too many tries. Wait a minute, then type the words again.', ownerOf);

  router.get('/recovery-code', (req, res) => {
    const view: RecoveryView = { madeAtMs: recovery.madeAtMs(ownerOf(req)) };
    res.json(view);
  });
  router.post('/recovery-code', limit, (req, res) => {
    const code = generateMnemonic(wordlist, CODE_BITS);
    recovery.replace(ownerOf(req), hashOf(code), now());
    const view: RecoveryCodeView = { words: code.split(' '), madeAtMs: now() };
    res.status(201).json(view);
  });
  router.post('/recover', limit, (req, res) => {
    const from = ownerOf(req);
    const owner = recovery.ownerOf(hashOf(validated(RecoverBody, req.body).code));
    if (owner === null)
      throw new FotoplanError(
        'RECOVERY_CODE_WRONG',
        'These words open nothing. Check each against the paper; a newer code makes an older one void.',
      );
    screens.moveAll(from, owner);
    events.move(from, owner);
    events.publish(owner, { kind: 'screens' }, screenOf(req));
    res.json({ recovered: true } satisfies RecoveredView);
  });
  router.post('/delete-everything', limit, (req, res) => {
    validated(DeleteEverythingBody, req.body);
    const ownerId = ownerOf(req);
    const others = screens.list(ownerId, screenOf(req)).filter(({ thisOne }) => !thisOne);
    owners.erase(ownerId, now());
    for (const { id } of others) events.cutOff(ownerId, id);
    // whoever asks next from here is somebody new
    forgetSession(res);
    res.status(204).end();
  });
  return router;
}

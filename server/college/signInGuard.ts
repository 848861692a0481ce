import { FotoplanError } from '../../core/errors';

/** So many wrong tries cost nothing: people mistype. */
const FREE_TRIES = { account: 5, address: 60 };
const FIRST_WAIT_MS = 2000;
const MOST_WAIT_MS = { account: 15 * 60_000, address: 60_000 };
/** Wrong tries are forgotten after this long without one. */
const FORGOTTEN_AFTER_MS = 24 * 3600_000;
/** Beyond this many, the oldest are forgotten. */
const MOST_KNOWN = 50_000;

interface Tries {
  wrong: number;
  lastMs: number;
}

export interface SignInGuard {
  /**
   * Counts a try before it is looked at, so that many at once are many.
   * @returns call it when the try was right
   * @throws FotoplanError TOO_MANY_TRIES, with the seconds to wait in its facts
   */
  begin(number: string, address: string, nowMs: number): () => void;
}

/**
 * Wrong tries to sign in, by account and by address, at all of the college's services together: after some, each next one must
 * wait twice as long as the one before. An account may be waited for longer than an address, behind which a whole campus may be.
 */
export function createSignInGuard(): SignInGuard {
  const tries = { account: new Map<string, Tries>(), address: new Map<string, Tries>() };
  const waitOf = (kind: 'account' | 'address', { wrong, lastMs }: Tries, nowMs: number): number => {
    const over = wrong - FREE_TRIES[kind];
    return over < 0 ? 0 : lastMs + Math.min(MOST_WAIT_MS[kind], FIRST_WAIT_MS * 2 ** Math.min(over, 20)) - nowMs;
  };
  const known = (kind: 'account' | 'address', key: string, nowMs: number): Tries => {
    const found = tries[kind].get(key);
    return found === undefined || nowMs - found.lastMs > FORGOTTEN_AFTER_MS ? { wrong: 0, lastMs: nowMs } : found;
  };
  const keep = (kind: 'account' | 'address', key: string, { wrong, lastMs }: Tries): void => {
    const map = tries[kind];
    // set anew, so that the map's order is that of the last tries
    map.delete(key);
    if (wrong <= 0) return;
    map.set(key, { wrong, lastMs });
    if (map.size > MOST_KNOWN) map.delete(map.keys().next().value!);
  };
  return {
    begin(number, address, nowMs) {
      const keys = { account: number.trim().toUpperCase(), address };
      const kinds = ['account', 'address'] as const;
      const waitMs = Math.max(...kinds.map((kind) => waitOf(kind, known(kind, keys[kind], nowMs), nowMs)));
      if (waitMs > 0) {
        const seconds = Math.ceil(waitMs / 1000);
        throw new FotoplanError(
          'TOO_MANY_TRIES',
          `Too many tries. Wait ${seconds < 100 ? `${seconds} seconds` : `${Math.ceil(seconds / 60)} minutes`}, then try again.`,
          { retryAfterS: seconds },
        );
      }
      for (const kind of kinds)
        keep(kind, keys[kind], { wrong: known(kind, keys[kind], nowMs).wrong + 1, lastMs: nowMs });
      return () => {
        keep('account', keys.account, { wrong: 0, lastMs: nowMs });
        // others behind the same address may have mistyped
        const address = known('address', keys.address, nowMs);
        keep('address', keys.address, { ...address, wrong: address.wrong - 1 });
      };
    },
  };
}

import { FotoplanError } from '../../core/errors';

/** What an answer, or none, means for what was sent. */
export type Verdict =
  /** Nothing gets through now: everything waits. */
  | { readonly kind: 'lineDown' }
  /** The server asks for patience: everything waits, as long as it says. */
  | { readonly kind: 'slowDown'; readonly afterMs: number | null }
  /** Something between here and the server, or a fault of the server: this one is tried again later, others go on. */
  | { readonly kind: 'tryLater' }
  /** This device was unlinked: nothing goes up any more. */
  | { readonly kind: 'unlinked' }
  /** The server understood, and said no: a person decides. */
  | { readonly kind: 'refused'; readonly error: FotoplanError };

const SLOW_DOWN = [408, 425, 429];

/** Anything that is not our server's own word passes; only what it says itself is taken for a refusal. */
export function verdictOn(error: unknown): Verdict {
  if (!(error instanceof FotoplanError)) return { kind: 'tryLater' };
  const status = Number(error.facts.status ?? 0);
  const after = error.facts.retryAfterS;
  if (SLOW_DOWN.includes(status))
    return { kind: 'slowDown', afterMs: after === undefined ? null : Number(after) * 1000 };
  switch (error.code) {
    case 'OFFLINE':
      return { kind: 'lineDown' };
    case 'SCREEN_CUT_OFF':
      return { kind: 'unlinked' };
    case 'ANSWER_UNREADABLE':
    case 'INTERNAL':
    case 'OFFICE_BUSY':
    case 'HASH_MISMATCH':
    case 'CANCELLED':
      return { kind: 'tryLater' };
    default:
      return status >= 500 || error.code.startsWith('STORAGE_') ? { kind: 'tryLater' } : { kind: 'refused', error };
  }
}

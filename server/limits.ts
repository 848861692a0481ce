import type { Request, RequestHandler } from 'express';
import { MemoryStore, rateLimit } from 'express-rate-limit';
import { FotoplanError } from '../core/errors';

export interface Limits {
  /**
   * So many requests a minute, counted wherever the same handler stands.
   * @param says - the sentence for the one too many, with what to do
   * @param keyOf - who is counted; the address where it is left out
   */
  aMinute(most: number, says: string, keyOf?: (req: Request) => string): RequestHandler;
  /** Forgets all counts. */
  stop(): void;
}

/** How often something may be asked for. */
export function createLimits(): Limits {
  const stores: MemoryStore[] = [];
  return {
    aMinute(most, says, keyOf) {
      const store = new MemoryStore();
      stores.push(store);
      const handler = (): never => {
        throw new FotoplanError('TOO_MANY_TRIES', says);
      };
      return rateLimit({
        windowMs: 60_000,
        limit: most,
        store,
        ...(keyOf === undefined ? {} : { keyGenerator: keyOf }),
        standardHeaders: true,
        legacyHeaders: false,
        handler,
      });
    },
    stop: () => stores.forEach((store) => store.shutdown()),
  };
}

/** Work that tabs of one browser, which share what the device keeps, may not do at the same time. */
export interface Locks {
  /** Sends the outbox; one tab at a time, two would only send everything twice. */
  sending(work: () => Promise<void>): Promise<void>;
  /** Writes bytes, then what refers to them. Many may at once, and one within another, but none while bytes are swept. */
  keeping<T>(work: () => Promise<T>): Promise<T>;
  /** Sweeps bytes that nothing refers to, if no tab is keeping any. */
  sweeping(work: () => Promise<void>): Promise<void>;
}

/** @param locks - undefined where the browser has none: then every tab sends, and nothing is swept */
export function createLocks(locks: LockManager | undefined): Locks {
  return {
    sending: async (work) => {
      await (locks === undefined ? work() : locks.request('fotoplan-outbox', work));
    },
    keeping: async (work) => (locks === undefined ? work() : locks.request('fotoplan-bytes', { mode: 'shared' }, work)),
    sweeping: async (work) => {
      // never waited for: what keeps bytes would have to wait behind it
      await locks?.request('fotoplan-bytes', { ifAvailable: true }, (lock) => (lock === null ? undefined : work()));
    },
  };
}

/** Waits that end with the engine; handed in so that tests need not wait. */
export interface Timers {
  set(ms: number, then: () => void): void;
  clear(): void;
}

export function createTimers(setTimer: typeof setTimeout = setTimeout): Timers {
  const running = new Set<ReturnType<typeof setTimeout>>();
  return {
    set(ms, then) {
      const timer = setTimer(() => {
        running.delete(timer);
        then();
      }, ms);
      running.add(timer);
    },
    clear() {
      for (const timer of running) clearTimeout(timer);
      running.clear();
    },
  };
}

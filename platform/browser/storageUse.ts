/** What this site may keep on this device. */
export interface StorageUse {
  readonly usedBytes: number;
  readonly quotaBytes: number;
  /** The browser promised not to clear it away by itself when the device fills up. */
  readonly isPersistent: boolean;
}

const storage = (): StorageManager | undefined => (globalThis.navigator as Navigator | undefined)?.storage;

/** @returns null where the browser does not tell */
export async function storageUse(): Promise<StorageUse | null> {
  const { usage, quota } =
    (await storage()
      ?.estimate?.()
      .catch(() => null)) ?? {};
  if (usage === undefined || quota === undefined) return null;
  return {
    usedBytes: usage,
    quotaBytes: quota,
    isPersistent:
      (await storage()
        ?.persisted?.()
        .catch(() => false)) ?? false,
  };
}

/** Asks the browser not to clear this site's pages away when the device fills up. @returns whether it promised */
export const askToKeep = async (): Promise<boolean> =>
  (await storage()
    ?.persist?.()
    .catch(() => false)) ?? false;

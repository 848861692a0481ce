/** Bytes kept on this device under names: photos and bound files. Names hold letters, digits, dots, dashes and underscores. */
export interface KeptBytes {
  /** Safe on return; putting a name again replaces what it had. @throws FotoplanError STORAGE_… with the true cause */
  put(name: string, bytes: Blob): Promise<void>;
  /** Null where there is nothing whole under this name. */
  get(name: string): Promise<Blob | null>;
  delete(name: string): Promise<void>;
  /** All names. */
  list(): Promise<readonly string[]>;
  /** Deletes all of it. */
  clear(): Promise<void>;
}

/** Bytes whose place is still being opened: every call waits for it, and fails as the opening did. */
export const onceOpened = (opening: Promise<KeptBytes>): KeptBytes => ({
  put: async (name, bytes) => (await opening).put(name, bytes),
  get: async (name) => (await opening).get(name),
  delete: async (name) => (await opening).delete(name),
  list: async () => (await opening).list(),
  clear: async () => (await opening).clear(),
});

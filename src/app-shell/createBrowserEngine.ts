import { nanoid } from 'nanoid';
import { openKeptBytes } from '../../platform/browser/keptBytes/openKeptBytes';
import { createApiClient } from '../data/apiClient';
import { openLocalDatabase } from '../data/localDatabase';
import { createLocks } from '../data/locks';
import { openServerEvents } from '../data/serverEvents';
import { openTabs } from '../data/tabs';
import { createEngine, type Engine } from '../engine/createEngine';

/** The engine with what a browser has. */
export const createBrowserEngine = (): Engine =>
  createEngine({
    openDb: openLocalDatabase,
    openBytes: openKeptBytes,
    api: (deviceKey) => createApiClient((input, init) => fetch(input, init), deviceKey),
    events: openServerEvents,
    tabs: openTabs,
    locks: createLocks((navigator as { readonly locks?: LockManager }).locks),
    spawnWorker: () => new Worker(new URL('../jobs/jobWorker', window.location.href)),
    cores: navigator.hardwareConcurrency,
    now: Date.now,
    newId: nanoid,
  });

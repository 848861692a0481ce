import { createApiClient, type ApiClient } from '../api/apiClient';
import { DEVICE_HEADER } from '../../contract/deviceHeader';
import { deviceKey, openLocalDatabase, type LocalDatabase } from '../storage/localDatabase';

/** The outside things that stores talk to; opened once. */
export interface Services {
  readonly db: LocalDatabase;
  readonly api: ApiClient;
}

let opened: Promise<Services> | null = null;

export function services(): Promise<Services> {
  opened ??= openLocalDatabase().then(async (db) => {
    const key = await deviceKey(db);
    return { db, api: createApiClient((input, init) => fetch(input, { ...init, headers: { ...init?.headers, [DEVICE_HEADER]: key } })) };
  });
  return opened;
}

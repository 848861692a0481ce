import { createApiClient, type ApiClient } from '../api/apiClient';
import { openLocalDatabase, type LocalDatabase } from '../storage/localDatabase';

/** The outside things that stores talk to; opened once. */
export interface Services {
  readonly db: LocalDatabase;
  readonly api: ApiClient;
}

let opened: Promise<Services> | null = null;

export function services(): Promise<Services> {
  opened ??= openLocalDatabase().then((db) => ({ db, api: createApiClient((input, init) => fetch(input, init)) }));
  return opened;
}

import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import type { OfficeAccount } from '../../core/work/office/assignment';
import { accountAt, signInAt, signOutAt, type CollegeService } from './collegeClient';

/** Whose account each of the college's services acts for; kept, so that it is known without a connection. */
interface AccountState {
  readonly accounts: Readonly<Record<CollegeService, OfficeAccount | null>>;
}

export const useAccountStore = create<AccountState>()(
  persist((): AccountState => ({ accounts: { office: null, locker: null, post: null } }), {
    name: 'fotoplan-accounts',
    version: 1,
  }),
);

const know = (service: CollegeService, account: OfficeAccount | null): void =>
  void useAccountStore.setState((s) => ({ accounts: { ...s.accounts, [service]: account } }));

/** @throws FotoplanError where the service cannot be reached */
export async function refreshAccount(service: CollegeService): Promise<OfficeAccount | null> {
  const account = await accountAt(service);
  know(service, account);
  return account;
}

/** @throws FotoplanError with what was wrong */
export async function signIn(service: CollegeService, number: string, pin: string): Promise<void> {
  await signInAt(service, number, pin);
  await refreshAccount(service);
}

export async function signOut(service: CollegeService): Promise<void> {
  await signOutAt(service);
  know(service, null);
}

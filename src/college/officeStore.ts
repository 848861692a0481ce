import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { FotoplanError } from '../../core/errors';
import type { Assignment, Receipt } from '../../core/work/office/assignment';
import type { Profile } from '../data/profile';
import { refreshAccount } from './accountStore';
import { officeAssignments, officeReceipts, withdrawAtOffice } from './officeClient';

/** What the course office last said; kept, so that what is due and what was received is known without a connection. */
interface OfficeState {
  readonly assignments: readonly Assignment[];
  readonly receipts: readonly Receipt[];
  /** Whether it was ever asked on this device: before, nobody can say where on the desk a thing will lie. */
  readonly asked: boolean;
}

const NOTHING: OfficeState = { assignments: [], receipts: [], asked: false };

/** An office that takes longer is not waited for. */
const LONGEST_WAIT_MS = 3000;

export const useOfficeStore = create<OfficeState>()(
  persist((): OfficeState => NOTHING, { name: 'fotoplan-office', version: 1 }),
);

/** Asks the office anew; what cannot be asked stays as it was. */
export async function refreshOffice(profile: Profile): Promise<void> {
  const waited = setTimeout(() => useOfficeStore.setState({ asked: true }), LONGEST_WAIT_MS);
  try {
    const [assignments, account] = await Promise.all([officeAssignments(), refreshAccount('office')]);
    const receipts = account === null ? [] : await officeReceipts();
    useOfficeStore.setState({ assignments, receipts });
    // the office knows how the name is written; a profile that was filled in by hand is left alone
    if (account !== null && profile.state.getState().number === '')
      void profile.change({ first: account.first, family: account.family, number: account.number });
  } catch (error) {
    // away: what was known before is still shown
    if (!(error instanceof FotoplanError)) throw error;
  } finally {
    clearTimeout(waited);
    useOfficeStore.setState({ asked: true });
  }
}

export const keepReceipt = (receipt: Receipt): void => {
  useOfficeStore.setState((s) => ({
    receipts: [receipt, ...s.receipts.filter(({ submissionId }) => submissionId !== receipt.submissionId)],
  }));
};

export async function withdraw(receipt: Receipt): Promise<void> {
  const withdrawn = await withdrawAtOffice(receipt.submissionId);
  useOfficeStore.setState((s) => ({
    receipts: s.receipts.map((each) => (each.submissionId === withdrawn.submissionId ? withdrawn : each)),
  }));
}

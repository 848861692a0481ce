import { t } from '@lingui/core/macro';
import { nanoid } from 'nanoid';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { bytesToHex } from '@noble/hashes/utils';
import { sha256 } from '@noble/hashes/sha2';
import { FotoplanError } from '../../core/errors';
import type { TicketView } from '../../contract/officeViews';
import type { BoundFile } from '../data/boundFiles';
import { officeTicket, sendToOffice } from './officeClient';
import { keepReceipt } from './officeStore';
import { IDLE, showSend, type SendState } from './sendStore';
import { errorText } from '../i18n/errorText';

interface Desk {
  /** Of each hand-in: the comment and fields that go with its file, and which doubts were said to be right so. */
  readonly notes: Readonly<
    Record<
      string,
      {
        readonly comment: string;
        readonly fields: Readonly<Record<string, string>>;
        readonly accepted: readonly string[];
      }
    >
  >;
  /** The key under which a file was last sent: after a crash the same file goes under the same key, and arrives once. */
  readonly keys: Readonly<Record<string, string>>;
}
const NO_NOTES = { comment: '', fields: {}, accepted: [] };

export const useDeskStore = create<Desk>()(
  persist((): Desk => ({ notes: {}, keys: {} }), { name: 'fotoplan-sending', version: 1 }),
);
export const useNotes = (handInId: string): Desk['notes'][string] => useDeskStore((s) => s.notes[handInId]) ?? NO_NOTES;
export const changeNotes = (handInId: string, changes: Partial<Desk['notes'][string]>): void => {
  useDeskStore.setState((s) => ({
    notes: { ...s.notes, [handInId]: { ...NO_NOTES, ...s.notes[handInId], ...changes } },
  }));
};

const TRIES = 4;
const PAUSE_MS = 1200;
const ASK_EVERY_MS = 700;
const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

/** Hands a file in: checks that it is the one that was checked, sends it, tries again where the line breaks, and waits for the office's word. */
export async function handInFile(
  handInId: string,
  assignmentId: string,
  file: BoundFile,
  fileName: string,
): Promise<void> {
  const stopper = new AbortController();
  const show = (state: SendState): void => showSend(`${handInId} office`, state);
  const sending = (share: number): void => show({ state: 'sending', share, stop: () => stopper.abort() });
  sending(0);
  try {
    if (bytesToHex(sha256(new Uint8Array(await file.blob.arrayBuffer()))) !== file.sha256)
      throw new FotoplanError(
        'HASH_MISMATCH',
        'The file on this device is not the one that was bound. Bind it again, then hand it in.',
      );
    const { comment, fields } = useDeskStore.getState().notes[handInId] ?? NO_NOTES;
    const name = `${assignmentId} ${file.sha256} ${fileName} ${comment} ${JSON.stringify(fields)}`;
    const key = useDeskStore.getState().keys[name] ?? nanoid();
    useDeskStore.setState((s) => ({ keys: { ...s.keys, [name]: key } }));
    const ticket = await settled(
      await retried(() =>
        sendToOffice(
          { assignmentId, key, file: file.blob, fileName, sha256: file.sha256, comment, fields },
          sending,
          stopper.signal,
        ),
      ),
      () => show({ state: 'waiting' }),
    );
    // its key is used up: the same file handed in once more is meant so
    useDeskStore.setState((s) => ({
      keys: Object.fromEntries(Object.entries(s.keys).filter(([kept]) => kept !== name)),
    }));
    if (ticket.state === 'refused') throw new FotoplanError('OFFICE_REFUSED', ticket.message);
    keepReceipt(ticket.receipt);
    show(IDLE);
  } catch (error) {
    show({
      state: 'failed',
      problem: errorText(error, t`It could not be handed in. Your file is kept here; try again.`),
      code: error instanceof FotoplanError ? error.code : null,
    });
  }
}

/** A line that breaks is tried again; a word from the office is not argued with. */
async function retried(send: () => Promise<TicketView>): Promise<TicketView> {
  for (let left = TRIES - 1; ; left--) {
    try {
      return await send();
    } catch (error) {
      if (!(error instanceof FotoplanError) || error.code !== 'SERVICE_UNREACHABLE' || left === 0) throw error;
      await pause(PAUSE_MS);
    }
  }
}

async function settled(first: TicketView, onWait: () => void): Promise<Exclude<TicketView, { state: 'queued' }>> {
  let ticket = first;
  while (ticket.state === 'queued') {
    onWait();
    await pause(ASK_EVERY_MS);
    const { submissionId } = ticket;
    ticket = await retried(() => officeTicket(submissionId));
  }
  return ticket;
}

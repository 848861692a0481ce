import { t } from '@lingui/core/macro';
import { nanoid } from 'nanoid';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import type { OnExisting } from '../../contract/placeBodies';
import type { LockerFileView, LockerFolderView, MessageView } from '../../contract/placeViews';
import { FotoplanError } from '../../core/errors';
import type { HandIn } from '../../core/work/hand-in/handIn';
import { readableBytes } from '../i18n/formats';
import type { BoundFile } from '../data/boundFiles';
import { callCollege, collegeJson, sendForm, type CollegeService } from './collegeClient';
import { showSend } from './sendStore';
import { errorText } from '../i18n/errorText';

/** What is remembered of sending elsewhere: the folder that was last used for a course, and whom mail last went to. */
interface PlacesState {
  readonly folders: Readonly<Record<string, string>>;
  readonly lastTo: string;
}

export const usePlacesStore = create<PlacesState>()(
  persist((): PlacesState => ({ folders: {}, lastTo: '' }), { name: 'fotoplan-places', version: 1 }),
);

/** What a folder is remembered by: the course, or the hand-in where it stands alone. */
export const folderKey = (handIn: HandIn, courseCode: string | null): string => courseCode ?? handIn.id;
export const rememberFolder = (key: string, path: string): void =>
  void usePlacesStore.setState((s) => ({ folders: { ...s.folders, [key]: path } }));

export const lockerFolder = (path: string): Promise<LockerFolderView> =>
  collegeJson('locker', `/folder?${new URLSearchParams({ path }).toString()}`);
export const makeFolder = (path: string): Promise<Response> =>
  callCollege('locker', '/folders', {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ path }),
  });
export const sentMails = async (): Promise<readonly MessageView[]> =>
  (await collegeJson<{ messages: readonly MessageView[] }>('post', '/messages')).messages;

/** Sends with progress, and says how it ended where the hand-in's place is shown. */
async function sendTo<T>(
  service: CollegeService,
  handInId: string,
  path: string,
  values: Readonly<Record<string, string>>,
  file: Blob,
  fileName: string,
  doneText: (view: T) => string,
): Promise<boolean> {
  const stopper = new AbortController();
  const key = `${handInId} ${service}`;
  const sending = (share: number): void => showSend(key, { state: 'sending', share, stop: () => stopper.abort() });
  sending(0);
  try {
    const view = await sendForm<T>({
      service,
      path,
      values,
      file,
      fileName,
      onProgress: sending,
      signal: stopper.signal,
    });
    showSend(key, { state: 'done', says: doneText(view) });
    return true;
  } catch (error) {
    const known = error instanceof FotoplanError ? error : null;
    showSend(key, {
      state: 'failed',
      problem: errorText(error, t`It could not be sent. Your file is kept here; try again.`),
      code: known?.code ?? null,
    });
    return false;
  }
}

export const saveToLocker = (
  handInId: string,
  file: BoundFile,
  name: string,
  path: string,
  onExisting: OnExisting,
): Promise<boolean> =>
  sendTo<LockerFileView>(
    'locker',
    handInId,
    '/files',
    { path, name, onExisting },
    file.blob,
    name,
    (saved) => t`Saved: ${{ path: saved.path }}/${{ name: saved.name }}, PDF, ${{ size: readableBytes(saved.bytes) }}.`,
  );

export function mail(
  handInId: string,
  file: BoundFile,
  name: string,
  words: { readonly to: string; readonly subject: string; readonly text: string },
): Promise<boolean> {
  usePlacesStore.setState({ lastTo: words.to });
  return sendTo<MessageView>(
    'post',
    handInId,
    '/messages',
    { key: nanoid(), name, ...words },
    file.blob,
    name,
    (sent) => t`Sent to ${{ to: sent.to }} with ${{ name: sent.name }}, PDF, ${{ size: readableBytes(sent.bytes) }}.`,
  );
}

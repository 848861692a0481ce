import { create } from 'zustand';

/** How a file on its way to a place is doing. */
export type SendState =
  | { readonly state: 'idle' }
  | { readonly state: 'sending'; readonly share: number; readonly stop: () => void }
  /** It is there; the place is looking at it. */
  | { readonly state: 'waiting' }
  | { readonly state: 'done'; readonly says: string }
  | { readonly state: 'failed'; readonly problem: string; readonly code: string | null };

/** By hand-in and place. */
export const useSendStore = create<{ readonly sends: Readonly<Record<string, SendState>> }>(() => ({ sends: {} }));

export const IDLE: SendState = { state: 'idle' };

export const showSend = (key: string, state: SendState): void =>
  useSendStore.setState((s) => ({ sends: { ...s.sends, [key]: state } }));

/** What tabs of one browser, which share what the device keeps, tell each other. */
export type TabMessage =
  | { readonly kind: 'handIns'; readonly ids: readonly string[] }
  | { readonly kind: 'outbox' }
  | { readonly kind: 'profile' }
  | { readonly kind: 'boundFile'; readonly handInId: string };

export interface Tabs {
  tell(message: TabMessage): void;
  listen(onMessage: (message: TabMessage) => void): void;
  close(): void;
}

/** Tabs that hear each other by a channel of the browser; alone where it has none. */
export function openTabs(): Tabs {
  const channel = typeof BroadcastChannel === 'undefined' ? null : new BroadcastChannel('fotoplan-2');
  return {
    tell: (message) => channel?.postMessage(message),
    listen: (onMessage) =>
      channel?.addEventListener('message', ({ data }: MessageEvent<TabMessage>) => onMessage(data)),
    close: () => channel?.close(),
  };
}

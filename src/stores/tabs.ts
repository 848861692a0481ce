/* Tabs of one browser share its store: each tells the others what it has written. */

const channel = typeof BroadcastChannel === 'undefined' ? null : new BroadcastChannel('fotoplan');

export const tellOtherTabs = (handInIds: readonly string[]): void => channel?.postMessage(handInIds);

export function listenToOtherTabs(onChange: (handInIds: readonly string[]) => void): void {
  channel?.addEventListener('message', ({ data }: MessageEvent<readonly string[]>) => onChange(data));
}

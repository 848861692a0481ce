import type { LiveEvent } from '../../contract/views';

export interface ServerEvents {
  close(): void;
}

/**
 * Listens to what the server tells. A line that breaks is taken up again by the browser itself, which says the last event it got.
 * @param onRefused - the server refused to be listened to
 */
export type OpenServerEvents = (onEvent: (event: LiveEvent) => void, onRefused: () => void) => ServerEvents;

/** How long after a refusal it is tried anew: a proxy may have answered in the server's place. */
const TRY_AGAIN_MS = 30_000;

export const openServerEvents: OpenServerEvents = (onEvent, onRefused) => {
  let closed = false;
  let source: EventSource;
  const open = (): void => {
    if (closed) return;
    source = new EventSource('/api/events');
    source.addEventListener('message', ({ data }: MessageEvent<string>) => onEvent(JSON.parse(data) as LiveEvent));
    source.addEventListener('error', () => {
      if (source.readyState !== EventSource.CLOSED || closed) return;
      onRefused();
      setTimeout(open, TRY_AGAIN_MS);
    });
  };
  open();
  return {
    close: () => {
      closed = true;
      source.close();
    },
  };
};

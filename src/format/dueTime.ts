import { formatDistanceStrict } from 'date-fns/formatDistanceStrict';

/** How long until something is due, and when exactly, where the person is. */
export function dueTime(dueMs: number, nowMs: number): { readonly left: string; readonly exact: string } {
  const apart = formatDistanceStrict(dueMs, nowMs);
  return {
    left: dueMs >= nowMs ? `due in ${apart}` : `was due ${apart} ago`,
    exact: new Date(dueMs).toLocaleString(undefined, {
      weekday: 'short',
      day: 'numeric',
      month: 'short',
      hour: '2-digit',
      minute: '2-digit',
    }),
  };
}

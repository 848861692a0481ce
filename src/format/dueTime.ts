import { t } from '@lingui/core/macro';
import { readableDate, timeFrom } from '../i18n/formats';

const EXACT: Intl.DateTimeFormatOptions = {
  weekday: 'short',
  day: 'numeric',
  month: 'short',
  hour: '2-digit',
  minute: '2-digit',
};

/** How long until something is due, and when exactly, where the person is. */
export function dueTime(dueMs: number, nowMs: number): { readonly left: string; readonly exact: string } {
  const apart = timeFrom(dueMs, nowMs);
  return { left: dueMs >= nowMs ? t`due ${apart}` : t`was due ${apart}`, exact: readableDate(dueMs, EXACT) };
}

import { t } from '@lingui/core/macro';
import { readableDate, timeFrom } from '../i18n/formats';

const SIX_DAYS_MS = 6 * 86_400_000;
const TIME: Intl.DateTimeFormatOptions = { hour: '2-digit', minute: '2-digit' };
/** Within a week the day of the week says it, otherwise the date: both together do not fit in one line on a phone. */
const NEAR: Intl.DateTimeFormatOptions = { weekday: 'short', ...TIME };
const FAR: Intl.DateTimeFormatOptions = { day: 'numeric', month: 'short', ...TIME };

/** How long until something is due, and when exactly, where the person is. */
export function dueTime(dueMs: number, nowMs: number): { readonly left: string; readonly exact: string } {
  const apart = timeFrom(dueMs, nowMs);
  return {
    left: dueMs >= nowMs ? t`due ${apart}` : t`was due ${apart}`,
    exact: readableDate(dueMs, Math.abs(dueMs - nowMs) < SIX_DAYS_MS ? NEAR : FAR),
  };
}

import { t } from '@lingui/core/macro';
import { readableDate } from '../i18n/formats';

/** A name to begin with, until the person gives a better one: the day, numbered when it is taken. */
export function workingTitle(date: Date, taken: readonly string[]): string {
  const day = t`Hand-in of ${{ date: readableDate(date.getTime(), { day: 'numeric', month: 'long' }) }}`;
  let title = day;
  for (let n = 2; taken.includes(title); n++) title = `${day} (${n})`;
  return title;
}

import { format } from 'date-fns/format';

/** A name to begin with, until the person gives a better one: the day, numbered when it is taken. */
export function workingTitle(date: Date, taken: readonly string[]): string {
  const day = `Hand-in of ${format(date, 'd MMMM')}`;
  let title = day;
  for (let n = 2; taken.includes(title); n++) title = `${day} (${n})`;
  return title;
}

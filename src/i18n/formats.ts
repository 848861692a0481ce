import { formatLocale } from './languages';

const inUnit = (amount: number, unit: 'byte' | 'kilobyte' | 'megabyte' | 'gigabyte', digits: number): string =>
  new Intl.NumberFormat(formatLocale(), {
    style: 'unit',
    unit,
    unitDisplay: unit === 'byte' ? 'long' : 'short',
    maximumFractionDigits: digits,
  })
    .format(amount)
    .replace('kB', 'KB');

/** A size as people say it, in steps of 1000: "412 KB", "1.3 MB", "5.4 GB". */
export function readableBytes(bytes: number): string {
  if (bytes < 1000) return inUnit(bytes, 'byte', 0);
  if (bytes < 999_500) return inUnit(bytes / 1000, 'kilobyte', 0);
  return bytes < 999_950_000 ? inUnit(bytes / 1e6, 'megabyte', 1) : inUnit(bytes / 1e9, 'gigabyte', 1);
}

/** A limit as it was set: "2.5 MB". */
export const readableLimit = (bytes: number): string => inUnit(bytes / 1e6, 'megabyte', 3);

/** @param style - what `Intl.DateTimeFormat` takes */
export const readableDate = (atMs: number, style: Intl.DateTimeFormatOptions): string =>
  new Intl.DateTimeFormat(formatLocale(), style).format(atMs);

const SHORT: Intl.DateTimeFormatOptions = { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' };

/** Day and time, short: "29 Nov, 18:05". */
export const shortDate = (atMs: number): string => readableDate(atMs, SHORT);

const UNITS = [
  ['day', 86_400_000],
  ['hour', 3_600_000],
  ['minute', 60_000],
] as const;

/** How far off a time is, in its largest whole unit: "in 3 days", "2 hours ago". */
export function timeFrom(atMs: number, nowMs: number): string {
  const apart = atMs - nowMs;
  const [unit, length] = UNITS.find(([, each]) => Math.abs(apart) >= each * 0.995) ?? UNITS[2];
  return new Intl.RelativeTimeFormat(formatLocale(), { numeric: 'always' }).format(Math.round(apart / length), unit);
}

import type { NamePattern } from '../naming/namePattern';

/** How a hand-in is bound, beside its paper. */
export interface BindSettings {
  readonly marginMm: number;
  readonly sameWidth: boolean;
  readonly cover: boolean;
  /** Words are read and laid under the pages. */
  readonly searchable: boolean;
  readonly showMarks: boolean;
  /** The author's name is told in the file. */
  readonly author: boolean;
  readonly maxBytes: number | null;
  /** Null names the file by the title. */
  readonly name: NamePattern | null;
}

export const PLAIN_BINDING: BindSettings = {
  marginMm: 0,
  sameWidth: false,
  cover: false,
  searchable: false,
  showMarks: true,
  author: false,
  maxBytes: null,
  name: null,
};

/** What a course office and a mailbox commonly allow. */
export const LIMIT_CHOICES = [null, 1_000_000, 2_000_000, 5_000_000, 10_000_000, 20_000_000] as const;
export const LEAST_LIMIT_BYTES = 20_000;
export const MOST_MARGIN_MM = 30;

import { fileNameFor, safeName } from './fileNameFor';

/** What a file's name can be put together from. */
export const NAME_PIECES = [
  'family',
  'first',
  'initial',
  'number',
  'course',
  'assignment',
  'title',
  'date',
  'attempt',
  'words',
] as const;
export type NamePieceKind = (typeof NAME_PIECES)[number];
export const SEPARATORS = ['_', '-', ' ', '.'] as const;
export type Separator = (typeof SEPARATORS)[number];
export const DATE_FORMS = ['2026-11-24', '24-11-2026', '20261124'] as const;
export type DateForm = (typeof DATE_FORMS)[number];

export interface NamePiece {
  readonly kind: NamePieceKind;
  /** Of free words. */
  readonly text?: string;
  /** Of a date. */
  readonly form?: DateForm;
}

/** A convention for names: pieces in order, and what stands between them. */
export interface NamePattern {
  readonly pieces: readonly NamePiece[];
  readonly separator: Separator;
}

const MOST_PIECES = 12;
const MOST_WORDS = 60;

/** Whether what was stored somewhere is a convention that can be used. */
export function isNamePattern(stored: unknown): stored is NamePattern {
  const { pieces, separator } = (typeof stored === 'object' && stored !== null ? stored : {}) as Partial<NamePattern>;
  return (
    SEPARATORS.includes(separator as Separator) &&
    Array.isArray(pieces) &&
    pieces.length <= MOST_PIECES &&
    (pieces as readonly (Partial<NamePiece> | null)[]).every((piece) => {
      const { kind, text, form } = piece ?? {};
      return (
        NAME_PIECES.includes(kind as NamePieceKind) &&
        (text === undefined || (typeof text === 'string' && text.length <= MOST_WORDS)) &&
        (form === undefined || DATE_FORMS.includes(form))
      );
    })
  );
}

/** What is known when a file gets its name; what is not known leaves its piece out. */
export interface NameFacts {
  readonly family?: string;
  readonly first?: string;
  readonly number?: string;
  readonly course?: string;
  readonly assignment?: string;
  readonly title: string;
  readonly attempt?: number;
  /** The day the file is made, where the person is. */
  readonly day: { readonly year: number; readonly month: number; readonly day: number };
}

const two = (n: number): string => String(n).padStart(2, '0');

function dateIn(form: DateForm, { year, month, day }: NameFacts['day']): string {
  if (form === '24-11-2026') return `${two(day)}-${two(month)}-${year}`;
  return form === '20261124' ? `${year}${two(month)}${two(day)}` : `${year}-${two(month)}-${two(day)}`;
}

/** What a piece becomes; empty where nothing is known for it. */
export function pieceText(piece: NamePiece, facts: NameFacts): string {
  switch (piece.kind) {
    case 'date':
      return dateIn(piece.form ?? '2026-11-24', facts.day);
    case 'words':
      return piece.text ?? '';
    case 'initial':
      return Array.from(facts.first ?? '')[0] ?? '';
    case 'attempt':
      return facts.attempt === undefined ? '' : `v${facts.attempt}`;
    case 'family':
    case 'first':
    case 'number':
    case 'course':
    case 'assignment':
    case 'title':
      return facts[piece.kind] ?? '';
  }
}

/**
 * The name of a file by a convention, with its ending, safe on every file system. Without anything to put together it is the
 * title. Where pieces are parted by _, - or a full stop, no space is left within them.
 */
export function nameByPattern({ pieces, separator }: NamePattern, facts: NameFacts): string {
  const closed = (text: string): string =>
    separator === ' ' ? text : text.replace(/\s+/g, separator === '-' ? '_' : '-');
  const parts = pieces.map((piece) => closed(safeName(pieceText(piece, facts)))).filter((part) => part !== '');
  return fileNameFor(parts.length === 0 ? facts.title : parts.join(separator));
}

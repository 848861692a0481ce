import type { HandIn } from '../core/handIn/handIn';
import type { NamePattern } from '../core/naming/namePattern';
import type { Paper } from '../core/pdf/paperSize';

/** What GET /api/hand-ins answers. */
export interface HandInsView {
  readonly handIns: readonly HandIn[];
}

/** A bound file as the server keeps it. */
export interface BoundFileView {
  readonly id: string;
  readonly name: string;
  readonly pages: number;
  readonly bytes: number;
  readonly sha256: string;
  readonly boundAtMs: number;
  /** Empty for files of before it was told. */
  readonly facts: Partial<BoundFileFacts>;
}

/** What another screen needs to know of a bound file to show it as its own. */
export interface BoundFileFacts {
  /** SHA-256 of all that it was made from. */
  readonly madeFrom: string;
  readonly pageBytes: readonly number[];
  readonly codings: readonly number[];
}

/** Who hands in, as the course wants it written, and what new work begins with. */
export interface ProfileView {
  readonly first: string;
  readonly family: string;
  readonly number: string;
  readonly paper: Paper;
  /** Null names files by their title. */
  readonly name: NamePattern | null;
  /** A course's own convention, by its code, where it differs. */
  readonly courseNames: Readonly<Record<string, NamePattern>>;
}

/** A browser that is linked to this work. */
export interface ScreenView {
  readonly id: string;
  readonly kind: string;
  readonly linkedAtMs: number;
  readonly seenAtMs: number;
  readonly thisOne: boolean;
}

/** A code that links another screen, as it is read out. */
export interface LinkCodeView {
  readonly code: string;
  readonly expiresAtMs: number;
}

/** What an owner's screens are told as it happens; the rest they ask for. */
export type LiveEvent =
  | { readonly kind: 'open' }
  | { readonly kind: 'handIn'; readonly handInId: string }
  | { readonly kind: 'boundFile'; readonly handInId: string }
  | { readonly kind: 'profile' }
  | { readonly kind: 'screens' }
  | { readonly kind: 'cutOff' };

/** How much of an original has arrived: the numbers of its parts. */
export interface UploadView {
  readonly parts: readonly number[];
}

/** Photos that ship with the demo: to practise with, or laid on the practice table. */
export interface PracticePhotosView {
  readonly photos: readonly { readonly name: string; readonly url: string }[];
}

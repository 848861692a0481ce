import type { HandIn } from '../core/handIn/handIn';
import type { NamePattern } from '../core/naming/namePattern';
import type { Paper } from '../core/pdf/paperSize';

/** What GET /api/changes?since=N answers: what is so now of all that changed after change N. */
export interface ChangesView {
  /** Whose work it is, as a hash: another one than before means that numbers from before mean nothing here. */
  readonly owner: string;
  /** Whose work this screen showed before it was unlinked, in the same way: what it knows of theirs is to be let go. */
  readonly left?: string;
  /** The number to ask from the next time. */
  readonly upTo: number;
  /** There is more: ask again from upTo. */
  readonly more: boolean;
  /** Deleted ones that can be restored are among them. */
  readonly handIns: readonly HandIn[];
  /** Ids of hand-ins that were deleted for good. */
  readonly gone: readonly string[];
  /** Hand-ins of which a file was bound. */
  readonly boundFiles: readonly string[];
  /** Left out where it did not change. */
  readonly profile?: ProfileView | null;
}

/** What POST /api/operations answers. */
export interface AppliedView {
  /** The numbers of the latest change before and after. */
  readonly seqBefore: number;
  readonly seq: number;
  /** Some of it had been applied before: what came between is not known to the sender. */
  readonly repeated: boolean;
}

/** When the recovery code was made that is good now; null where there is none. The code itself is told only when it is made. */
export interface RecoveryView {
  readonly madeAtMs: number | null;
}
export interface RecoveryCodeView {
  /** Twelve words. */
  readonly words: readonly string[];
  readonly madeAtMs: number;
}

/** Which of the originals asked about the server has. */
export interface OriginalsView {
  readonly have: readonly string[];
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
  /** Whose it is, as their profile says; empty where that says nothing. */
  readonly person: string;
  readonly linkedAtMs: number;
  readonly seenAtMs: number;
  readonly thisOne: boolean;
  /** It joined the others: unlinked, it leaves with what it brought. */
  readonly cameAlong: boolean;
}

/** Whose work a code joins. */
export interface JoinView {
  /** Of the screen that shows the code. */
  readonly kind: string;
  readonly person: string;
  readonly handIns: number;
}

/** A code that links another screen, as it is read out. */
export interface LinkCodeView {
  readonly code: string;
  readonly expiresAtMs: number;
}

/** What an owner's screens are told as it happens; what has changed they ask for, by the number of the latest change. */
export type LiveEvent =
  | { readonly kind: 'open'; readonly seq: number }
  | { readonly kind: 'changed'; readonly seq: number }
  | { readonly kind: 'screens' }
  /** Unlinked, with what it had brought: it is by itself again. */
  | { readonly kind: 'left' }
  | { readonly kind: 'cutOff' };

/** How much of an original has arrived: the numbers of its parts. */
export interface UploadView {
  readonly parts: readonly number[];
}

/** Photos that ship with the demo: to practise with, or laid on the practice table. */
export interface PracticePhotosView {
  readonly photos: readonly { readonly name: string; readonly url: string }[];
}

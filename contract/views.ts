import { IsArray, IsBoolean, IsInt, IsObject, IsOptional, IsString, Matches, Min } from 'class-validator';
import type { ErrorCode } from '../core/errors';
import type { HandIn } from '../core/work/hand-in/handIn';
import { HandInView } from './handInView';
import { Nested } from './nested';
import { OrNull } from './orNull';
import { ProfileBody } from './profileBody';

const SHA256 = /^[0-9a-f]{64}$/;

/** What GET /api/changes?since=N answers: what is so now of all that changed after change N. */
export class ChangesView {
  /** Whose work it is, as a hash: another one than before means that numbers from before mean nothing here. */
  @IsString() readonly owner!: string;
  /** Whose work this screen showed before it was unlinked, in the same way: what it knows of theirs is to be let go. */
  @IsOptional() @IsString() readonly left?: string;
  /** The number to ask from the next time. */
  @IsInt() @Min(0) readonly upTo!: number;
  /** There is more: ask again from upTo. */
  @IsBoolean() readonly more!: boolean;
  /** Deleted ones that can be restored are among them. */
  @IsArray() @Nested(() => HandInView, { each: true }) readonly handIns!: readonly HandIn[];
  /** Ids of hand-ins that were deleted for good. */
  @IsArray() @IsString({ each: true }) readonly gone!: readonly string[];
  /** Hand-ins of which a file was bound. */
  @IsArray() @IsString({ each: true }) readonly boundFiles!: readonly string[];
  /** Left out where it did not change. */
  @IsOptional() @Nested(() => ProfileView) readonly profile?: ProfileView | null;
}

/** What POST /api/operations answers. */
export class AppliedView {
  /** The numbers of the latest change before and after. */
  @IsInt() @Min(0) readonly seqBefore!: number;
  @IsInt() @Min(0) readonly seq!: number;
  /** Some of it had been applied before: what came between is not known to the sender. */
  @IsBoolean() readonly repeated!: boolean;
}

/** When the recovery code was made that is good now; null where there is none. The code itself is told only when it is made. */
export class RecoveryView {
  @OrNull() @IsInt() readonly madeAtMs!: number | null;
}
export class RecoveryCodeView {
  /** Twelve words. */
  @IsArray() @IsString({ each: true }) readonly words!: readonly string[];
  @IsInt() readonly madeAtMs!: number;
}

/** Which of the originals asked about the server has. */
export class OriginalsView {
  @IsArray() @Matches(SHA256, { each: true }) readonly have!: readonly string[];
}

/** A bound file as the server keeps it. */
export class BoundFileView {
  @IsString() readonly id!: string;
  @IsString() readonly name!: string;
  @IsInt() @Min(1) readonly pages!: number;
  @IsInt() @Min(1) readonly bytes!: number;
  @Matches(SHA256) readonly sha256!: string;
  @IsInt() readonly boundAtMs!: number;
  /** Empty for files of before it was told. */
  @Nested(() => BoundFileFacts) readonly facts!: Partial<BoundFileFacts>;
}

/** What another screen needs to know of a bound file to show it as its own. */
export class BoundFileFacts {
  /** SHA-256 of all that it was made from. */
  @IsOptional() @Matches(SHA256) readonly madeFrom!: string;
  @IsOptional() @IsArray() @IsInt({ each: true }) readonly pageBytes!: readonly number[];
  /** How much of each page's sharpness the limit took, per cent. */
  @IsOptional() @IsArray() @IsInt({ each: true }) readonly codings!: readonly number[];
}

/** Who hands in, as the course wants it written, and what new work begins with. */
export class ProfileView extends ProfileBody {}

/** A browser that is linked to this work. */
export class ScreenView {
  @IsString() readonly id!: string;
  @IsString() readonly kind!: string;
  /** Whose it is, as their profile says; empty where that says nothing. */
  @IsString() readonly person!: string;
  @IsInt() readonly linkedAtMs!: number;
  @IsInt() readonly seenAtMs!: number;
  @IsBoolean() readonly thisOne!: boolean;
  /** It joined the others: unlinked, it leaves with what it brought. */
  @IsBoolean() readonly cameAlong!: boolean;
}

/** Whose work a code joins. */
export class JoinView {
  /** Of the screen that shows the code. */
  @IsString() readonly kind!: string;
  @IsString() readonly person!: string;
  @IsInt() @Min(0) readonly handIns!: number;
}

/** A code that links another screen, as it is read out. */
export class LinkCodeView {
  @IsString() readonly code!: string;
  @IsInt() readonly expiresAtMs!: number;
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
export class UploadView {
  @IsArray() @IsInt({ each: true }) @Min(0, { each: true }) readonly parts!: readonly number[];
}

/** Photos that ship with the demo: to practise with, or laid on the practice table. */
export class PracticePhotoView {
  @IsString() readonly name!: string;
  @IsString() readonly url!: string;
}
export class PracticePhotosView {
  @IsArray() @Nested(() => PracticePhotoView, { each: true }) readonly photos!: readonly PracticePhotoView[];
}

/** What GET /api/profile answers: null until somebody has said who they are. */
export class ProfileAnswer {
  @OrNull() @Nested(() => ProfileView) readonly profile!: ProfileView | null;
}
/** The screen shows the other's work from now on. */
export class LinkedView {
  @IsBoolean() readonly linked!: boolean;
}
export class RecoveredView {
  @IsBoolean() readonly recovered!: boolean;
}
export class ScreensView {
  @IsArray() @Nested(() => ScreenView, { each: true }) readonly screens!: readonly ScreenView[];
}
export class BoundFilesView {
  @IsArray() @Nested(() => BoundFileView, { each: true }) readonly files!: readonly BoundFileView[];
}
/** A whole original that was kept. */
export class KeptOriginalView {
  @Matches(SHA256) readonly sha256!: string;
  @IsInt() @Min(1) readonly bytes!: number;
  /** Its media type, size in px before it is turned (0 for a PDF) and EXIF orientation; left out where it was there before. */
  @IsOptional() @IsString() readonly type?: string;
  @IsOptional() @IsInt() @Min(0) readonly width?: number;
  @IsOptional() @IsInt() @Min(0) readonly height?: number;
  @IsOptional() @IsInt() readonly orientation?: number;
}
/** What every refusal looks like: the program acts on the code, people on the message. */
export class ErrorView {
  @IsString() readonly code!: ErrorCode;
  @IsString() readonly message!: string;
  @IsOptional() @IsObject() readonly facts?: Readonly<Record<string, string | number>>;
}

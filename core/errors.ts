/** Every way in which work can end badly. The program acts on the code, people on the message. */
export const ERROR_CODES = [
  // photo files
  'PHOTO_EMPTY',
  'PHOTO_NOT_A_PHOTO',
  'PHOTO_IS_PDF',
  'PDF_UNREADABLE',
  'PDF_FORBIDS',
  'PHOTO_CUT_SHORT',
  'PHOTO_TOO_SMALL',
  'PHOTO_TOO_LARGE',
  'PHOTO_UNREADABLE',
  'PHOTO_GONE',
  'PHOTO_TWICE',
  'PHOTOS_OUT_OF_ORDER',
  // zips and folders of them
  'ZIP_UNREADABLE',
  'ZIP_IS_EXPORT',
  'NO_PHOTOS_INSIDE',
  'FILES_LEFT_OUT',
  // outlines and recipes
  'OUTLINE_DEGENERATE',
  'RECIPE_INVALID',
  'NO_PAGES',
  'SECOND_SHOT_UNLIKE',
  'SECOND_SHOT_SHINES',
  'BUNDLE_INVALID',
  'FILE_TOO_LARGE',
  // work under way
  'CANCELLED',
  'WORKER_LOST',
  // the course office
  'NOT_SIGNED_IN',
  'SIGN_IN_WRONG',
  'OFFICE_BUSY',
  'OFFICE_REFUSED',
  'TOO_MANY_TRIES',
  'NAME_TAKEN',
  // linked screens
  'SCREEN_CUT_OFF',
  'LINK_CODE_WRONG',
  'RECOVERY_CODE_WRONG',
  // server and wire
  'QUOTA_FULL',
  'SERVER_FULL',
  'STORE_UNREACHABLE',
  'BODY_INVALID',
  'NOT_FOUND',
  'HASH_MISMATCH',
  'ORIGINAL_MISSING',
  'OFFLINE',
  'SERVICE_UNREACHABLE',
  // keeping things on this device
  'STORAGE_FULL',
  'STORAGE_PRIVATE',
  'STORAGE_BLOCKED',
  'STORAGE_FAILED',
  'STORAGE_HELD',
  'FOLDER_LOST',
  // the server answered with something that is not its own
  'ANSWER_UNREADABLE',
  'INTERNAL',
] as const;

export type ErrorCode = (typeof ERROR_CODES)[number];

/** The one error that crosses rooms: a code from a closed list, a sentence naming the fix, and facts for the log. */
export class FotoplanError extends Error {
  override readonly name = 'FotoplanError';
  constructor(
    readonly code: ErrorCode,
    message: string,
    readonly facts: Readonly<Record<string, string | number>> = {},
    options?: ErrorOptions,
  ) {
    super(message, options);
  }
}

/** A FotoplanError as plain data, for crossings (worker, wire) that strip classes. */
export interface WireError {
  readonly code: ErrorCode;
  readonly message: string;
  readonly facts: Readonly<Record<string, string | number>>;
}

/** Turns anything thrown into plain data; what is not ours becomes INTERNAL with the sentence given. */
export function toWireError(thrown: unknown, fallbackMessage: string): WireError {
  if (thrown instanceof FotoplanError) return { code: thrown.code, message: thrown.message, facts: thrown.facts };
  return { code: 'INTERNAL', message: fallbackMessage, facts: {} };
}

/** Rebuilds the error on the other side of a crossing. */
export function fromWireError(wire: WireError): FotoplanError {
  return new FotoplanError(wire.code, wire.message, wire.facts);
}

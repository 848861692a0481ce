import { FotoplanError } from '../../../core/errors';

const nameOf = (cause: unknown): string => (cause as { name?: unknown } | null)?.name as string;

/**
 * Why a browser did not keep something, as it is: no room, storage blocked for the site, a private window, or a fault of its own.
 * @param cause - what IndexedDB or the file system threw
 */
export function storageError(cause: unknown): FotoplanError {
  if (cause instanceof FotoplanError) return cause;
  switch (nameOf(cause)) {
    case 'QuotaExceededError':
    case 'NS_ERROR_DOM_QUOTA_REACHED':
      return new FotoplanError(
        'STORAGE_FULL',
        'This device has no room left for Fotoplan. Free some space (Settings, Space on this device), then do this again.',
        {},
        { cause },
      );
    case 'SecurityError':
    case 'NotAllowedError':
      return new FotoplanError(
        'STORAGE_BLOCKED',
        'This browser does not let this site keep anything. Allow site data for this address, then reload.',
        {},
        { cause },
      );
    case 'InvalidStateError':
    case 'MissingAPIError':
      return new FotoplanError(
        'STORAGE_PRIVATE',
        'This private window keeps nothing. Open Fotoplan in a normal window.',
        {},
        { cause },
      );
    default:
      return new FotoplanError(
        'STORAGE_FAILED',
        'The browser could not write to this device. Reload, then do this again; what was saved before is still here.',
        {},
        { cause },
      );
  }
}

/** What a browser without IndexedDB or a file system of its own is missing. */
export const missing = (what: string): DOMException => new DOMException(`${what} is missing`, 'MissingAPIError');

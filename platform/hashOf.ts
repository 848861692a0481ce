import { sha256 } from '@noble/hashes/sha2';
import { bytesToHex } from '@noble/hashes/utils';

/** SHA-256 in hexadecimal; by the browser itself where the page is secure. */
export async function hashOf(bytes: Uint8Array<ArrayBuffer>): Promise<string> {
  const subtle = (globalThis.crypto as Crypto | undefined)?.subtle;
  return bytesToHex(subtle === undefined ? sha256(bytes) : new Uint8Array(await subtle.digest('SHA-256', bytes)));
}

import type { IncomingMessage, ServerResponse } from 'node:http';
import { FotoplanError } from '../core/errors';

/** Deeper and more than anything of ours; what a checked body may hold is told more exactly in validated.ts. */
const MOST_DEPTH = 40;
const MOST_OBJECTS = 100_000;

const QUOTE = '"'.charCodeAt(0);
const BACKSLASH = '\\'.charCodeAt(0);
const OPENING = new Set(['{', '['].map((sign) => sign.charCodeAt(0)));
const CLOSING = new Set(['}', ']'].map((sign) => sign.charCodeAt(0)));

/**
 * Counts brackets before JSON is parsed: parsing a megabyte of nothing but braces takes twenty times as long as counting them.
 * Given to Express's parser as its look at the raw body.
 * @throws FotoplanError BODY_INVALID
 */
export function refuseWildJson(_req: IncomingMessage, _res: ServerResponse, json: Buffer): void {
  let depth = 0;
  let objects = 0;
  let inString = false;
  for (let i = 0; i < json.length; i++) {
    const byte = json[i]!;
    if (inString) {
      if (byte === BACKSLASH) i++;
      else if (byte === QUOTE) inString = false;
    } else if (byte === QUOTE) inString = true;
    else if (OPENING.has(byte)) {
      objects++;
      if (++depth > MOST_DEPTH || objects > MOST_OBJECTS)
        throw new FotoplanError(
          'BODY_INVALID',
          `That is more than one thing can hold: at most ${MOST_OBJECTS} objects and lists, ${MOST_DEPTH} deep.`,
        );
    } else if (CLOSING.has(byte)) depth--;
  }
}

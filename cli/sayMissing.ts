import type { MissingPart } from '../core/imaging/quality/missingPart';

/** Says on standard error that a photo breaks off: it was taken as far as it goes. */
export function sayMissing(shownAs: string, missing: MissingPart | null): void {
  if (missing === null) return;
  const { side, share } = missing;
  process.stderr.write(
    `“${shownAs}” breaks off: ${Math.round(100 * share)} % of it are missing at the ${side}. Copy it from the phone again, or shoot the page again.\n`,
  );
}

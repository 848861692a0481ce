/** Arguments that make no sense; the program ends with exit code 2. */
export class UsageError extends Error {
  override readonly name = 'UsageError';
}

import { fromWireError, toWireError, type FotoplanError } from '../core/errors';
import type { Inputs } from './inputs';
import { showProgress } from './progress';

/** Says which shape the lines have: a program that reads them can tell when that changes. */
const SCHEMA = 1;

const line = (facts: object): void => void process.stdout.write(`${JSON.stringify({ schema: SCHEMA, ...facts })}\n`);

/**
 * Asks for every file at once and prints one line of JSON for each, in the order given; what fails is said on standard error, too.
 * @param describe - what is told of an answer
 * @returns the exit code
 */
export async function eachAnswer<T>(
  { inputs, clear }: Inputs,
  quiet: boolean,
  ask: (file: string) => Promise<T>,
  describe: (answer: T) => object,
): Promise<number> {
  const progress = showProgress(inputs.length, quiet);
  const answers = inputs.map(async (input): Promise<{ answer: T } | { error: FotoplanError }> => {
    if ('error' in input) return input;
    try {
      return { answer: await ask(input.file) };
    } catch (error) {
      return {
        error: fromWireError(toWireError(error, `“${input.shownAs}” could not be worked on. Try another photo.`)),
      };
    } finally {
      progress.step();
    }
  });
  let code = 0;
  for (const [k, promise] of answers.entries()) {
    const result = await promise;
    const file = inputs[k]!.shownAs;
    progress.clear();
    if ('error' in result) {
      const { code: kind, message } = result.error;
      process.stderr.write(`${message}\n`);
      line({ file, error: { code: kind, message } });
      code = 1;
    } else line({ file, ...describe(result.answer) });
  }
  clear();
  return code;
}

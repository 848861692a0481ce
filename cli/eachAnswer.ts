/** Asks for every file at once, answers in the order given; what fails is said on standard error. Returns the exit code. */
export async function eachAnswer<T>(
  files: readonly string[],
  ask: (file: string) => Promise<T>,
  show: (file: string, answer: T) => void,
): Promise<number> {
  const answers = files.map(async (file) => {
    try {
      return { file, answer: await ask(file) };
    } catch (error) {
      return { file, error: error as Error };
    }
  });
  let code = 0;
  for (const promise of answers) {
    const result = await promise;
    if ('error' in result) {
      process.stderr.write(`${result.error!.message}\n`);
      code = 1;
    } else show(result.file, result.answer);
  }
  return code;
}

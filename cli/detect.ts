import type { PageCrew } from '../platform/node/pageCrew';
import { readArguments, readFiles } from './readArguments';

const rounded = ({ x, y }: { x: number; y: number }): [number, number] => [Math.round(x * 10) / 10, Math.round(y * 10) / 10];

/** One JSON line an image, in the order given. */
export async function detect(args: readonly string[], crew: PageCrew): Promise<number> {
  const { positionals } = readArguments(args, { json: { type: 'boolean' } });
  const answers = readFiles(positionals).map(async (file) => {
    try {
      return { file, answer: await crew.detect({ task: 'detect', file }) };
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
      continue;
    }
    const { width, height, quad, boundary, confidence, upright, ms } = result.answer;
    const line = { file: result.file, width, height, quad: quad?.map(rounded) ?? null, boundary: boundary?.map(rounded) ?? null, confidence: Math.round(confidence * 1000) / 1000, upright, ms };
    process.stdout.write(`${JSON.stringify(line)}\n`);
  }
  return code;
}

import type { PageCrew } from '../platform/node/pageCrew';
import { eachAnswer } from './eachAnswer';
import { readArguments, readFiles } from './readArguments';

const rounded = ({ x, y }: { x: number; y: number }): [number, number] => [
  Math.round(x * 10) / 10,
  Math.round(y * 10) / 10,
];

/** One JSON line an image, in the order given. */
export function detect(args: readonly string[], crew: PageCrew): Promise<number> {
  const { positionals } = readArguments(args, { json: { type: 'boolean' } });
  return eachAnswer(
    readFiles(positionals),
    (file) => crew.detect({ task: 'detect', file }),
    (file, { width, height, quad, boundary, confidence, upright, ms }) => {
      const line = {
        file,
        width,
        height,
        quad: quad?.map(rounded) ?? null,
        boundary: boundary?.map(rounded) ?? null,
        confidence: Math.round(confidence * 1000) / 1000,
        upright,
        ms,
      };
      process.stdout.write(`${JSON.stringify(line)}\n`);
    },
  );
}

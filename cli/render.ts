import { writeWhole } from './writeWhole';
import type { PageCrew } from '../platform/node/pageCrew';
import { readArguments, readCount, readFiles, readFinish, readOutline, readOutput } from './readArguments';
import { UsageError } from './usageError';

/** The flattened page as a PNG. */
export async function render(args: readonly string[], crew: PageCrew): Promise<number> {
  const { values, positionals } = readArguments(args, {
    output: { type: 'string', short: 'o' },
    finish: { type: 'string' },
    outline: { type: 'string' },
    dpi: { type: 'string' },
  });
  const [file, ...more] = readFiles(positionals);
  if (more.length > 0) throw new UsageError('render takes one photo. Call it once for each.');
  const output = readOutput(values.output, '.png');
  const answer = await crew.render({
    task: 'render',
    file: file!,
    finish: readFinish(values.finish),
    outline: readOutline(values.outline),
    encode: { as: 'png', dpi: readCount(values.dpi, '--dpi') },
  });
  if (answer.as === 'png') await writeWhole(output, answer.bytes);
  return 0;
}

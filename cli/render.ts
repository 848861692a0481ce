import type { Finish } from '../core/imaging/finish/finishSettings';
import type { PageCrew } from '../platform/node/pageCrew';
import { missingNote, say } from './inputNotes';
import { readInputs } from './inputs';
import { checkOutput, readOutput, writeOutput } from './output';
import { readCount, readOutline, readTurns, type Given } from './readArguments';
import { UsageError } from './usageError';

/** The flattened page as a PNG. */
export async function render(given: Given, crew: PageCrew): Promise<number> {
  const to = readOutput(given, '.png');
  if (to !== '-' && !/\.png$/i.test(to))
    throw new UsageError(`The page is written as a PNG: “${to}” should end with .png.`);
  if (given.files.length > 1) throw new UsageError('render takes one photo. Call it once for each.');
  const wanted = { outline: readOutline(given.value('outline')), dpi: readCount(given, 'dpi') };
  const output = await checkOutput(to, given.files, given);
  const { inputs, clear } = await readInputs(given);
  try {
    const [input, ...more] = inputs;
    if (more.length > 0)
      throw new UsageError(
        `render takes one page, and “${given.files[0] ?? 'the list'}” has ${inputs.length}. Save the one you want by itself, or make a PDF of all with bind.`,
      );
    if ('error' in input!) throw input.error;
    const answer = await crew.render({
      task: 'render',
      file: input!.file,
      finish: (given.value('finish') ?? 'daylight') as Finish,
      outline: wanted.outline,
      quarterTurns: readTurns(given),
      encode: { as: 'png', dpi: wanted.dpi },
    });
    say(missingNote(input!.shownAs, answer.missing));
    if (answer.as === 'png') await writeOutput(output, answer.bytes);
    return 0;
  } finally {
    clear();
  }
}

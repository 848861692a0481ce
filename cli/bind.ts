import { FotoplanError } from '../core/errors';
import type { Finish } from '../core/finish/applyFinish';
import { bindPdf, type PagePicture } from '../core/pdf/bindPdf';
import type { Paper } from '../core/pdf/paperSize';
import type { PageCrew } from '../platform/node/pageCrew';
import { readArguments, readCount, readFiles, readFinish, readOutput, readPaper } from './readArguments';
import { writeWhole } from './writeWhole';

/** From sharp to just readable; a limit takes the first that fits. */
const SETTINGS = [
  { dpi: 200, quality: 80 },
  { dpi: 200, quality: 65 },
  { dpi: 170, quality: 60 },
  { dpi: 150, quality: 55 },
  { dpi: 130, quality: 45 },
  { dpi: 110, quality: 40 },
  { dpi: 96, quality: 30 },
] as const;

/** One PDF, pages in the order given. Photos that cannot be used are named and left out. */
export async function bind(args: readonly string[], crew: PageCrew): Promise<number> {
  const { values, positionals } = readArguments(args, {
    output: { type: 'string', short: 'o' },
    finish: { type: 'string' },
    paper: { type: 'string' },
    'max-bytes': { type: 'string' },
  });
  const output = readOutput(values.output, '.pdf');
  const finish = readFinish(values.finish);
  const paper = readPaper(values.paper);
  const most = readCount(values['max-bytes'], '--max-bytes');
  let files = readFiles(positionals);
  let code = 0;
  for (const setting of SETTINGS) {
    const pictures = await renderAll(files, crew, finish, paper, setting);
    const failed = pictures.filter((p) => 'error' in p);
    for (const { error } of failed) process.stderr.write(`${error.message}\n`);
    if (failed.length > 0) code = 1;
    files = files.filter((_, i) => !('error' in pictures[i]!));
    if (files.length === 0) throw new FotoplanError('NO_PAGES', 'None of the photos could be used, so no PDF was made.');
    const pdf = await bindPdf(ready(pictures), { title: output.replace(/^.*\//, '').replace(/\.pdf$/i, ''), paper, nowMs: Date.now() });
    if (most === null || pdf.length <= most) {
      await writeWhole(output, pdf);
      return code;
    }
  }
  throw new FotoplanError('NO_PAGES', `${files.length} pages do not fit into ${most} bytes and stay readable. Allow more, or bind them in parts.`);
}

type Rendered = PagePicture | { readonly error: Error };

function renderAll(files: readonly string[], crew: PageCrew, finish: Finish, paper: Paper, { dpi, quality }: { dpi: number; quality: number }): Promise<Rendered[]> {
  return Promise.all(
    files.map(async (file): Promise<Rendered> => {
      try {
        const { bytes, width, height } = await crew.render({ task: 'render', file, finish, outline: 'auto', encode: { as: 'jpeg', dpi, quality, paper } });
        return { jpeg: bytes, width, height };
      } catch (error) {
        return { error: error as Error };
      }
    }),
  );
}

// eslint-disable-next-line @typescript-eslint/require-await -- bindPdf asks for pages one by one
async function* ready(pictures: readonly Rendered[]): AsyncGenerator<PagePicture> {
  for (const picture of pictures) if (!('error' in picture)) yield picture;
}

import { execFile } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { PDFDocument, PDFName } from '@cantoo/pdf-lib';
import sharp from 'sharp';
import { createScene } from '../demo/camera/scene';
import { photograph, type Photograph } from '../demo/camera/photograph';
import { encodePhotograph } from '../demo/camera/savePhotograph';

// a test here starts the program several times, beside other tests on the same two cores
jest.setTimeout(180_000);

const folder = mkdtempSync(path.join(tmpdir(), 'fotoplan-cli-'));
const inFolder = (name: string): string => path.join(folder, name);
afterAll(() => rmSync(folder, { recursive: true }));

const take = (seed: number, exifOrientation: 1 | 6): Photograph =>
  photograph(
    createScene(seed, {
      page: { kind: 'calculation', size: 'a4' },
      desk: 'wood',
      light: 'even',
      shape: { kind: 'flat' },
      headingRad: 0.04,
      thumb: false,
      underSheet: false,
      offCentre: { x: 0, y: 0 },
      exifOrientation,
      camera: { widthPx: 900, heightPx: 1200, tiltRad: 0.2, fill: 0.85, radial: 0, blurPx: 0.5, motionPx: 0 },
    }),
  );
const photos = [take(8101, 1), take(8102, 6)];

beforeAll(async () => {
  await Promise.all(photos.map(async (photo, i) => writeFileSync(inFolder(`${i}.jpg`), await encodePhotograph(photo))));
  writeFileSync(inFolder('letter.jpg'), 'just words');
});

interface Result {
  readonly code: number;
  readonly out: string;
  readonly err: string;
}

/** Calls the program with something on its standard input. */
const fed = (input: string | Buffer, ...args: string[]): Promise<Result> =>
  new Promise((resolve) => {
    const child = execFile(path.resolve('bin/fotoplan'), args, { encoding: 'latin1' }, (error, out, err) =>
      resolve({
        code: typeof error?.code === 'number' ? error.code : 0,
        out,
        err: Buffer.from(err, 'latin1').toString('utf8'),
      }),
    );
    child.stdin!.end(input);
  });
const fotoplan = (...args: string[]): Promise<Result> => fed('', ...args);
const linesOf = ({ out }: Result): Record<string, unknown>[] =>
  Buffer.from(out, 'latin1')
    .toString('utf8')
    .trim()
    .split('\n')
    .map((line) => JSON.parse(line) as Record<string, unknown>);

describe('bin/fotoplan', () => {
  it('binds a PDF’s pages as they are among photos, and names one that cannot be opened', async () => {
    const handout = await PDFDocument.create();
    handout.addPage([300, 500]).drawText('Gannet Haven', { x: 20, y: 400, size: 12 });
    writeFileSync(inFolder('handout.pdf'), await handout.save());
    writeFileSync(inFolder('torn.pdf'), '%PDF-1.7 torn');
    const { code, err } = await fotoplan(
      'bind',
      inFolder('handout.pdf'),
      inFolder('torn.pdf'),
      inFolder('1.jpg'),
      '-o',
      inFolder('mixed.pdf'),
      '--paper',
      'a4',
    );
    expect(code).toBe(1);
    expect(err.trim()).toMatch(/^“torn.pdf” is damaged or empty\./);
    const pages = (await PDFDocument.load(readFileSync(inFolder('mixed.pdf')))).getPages();
    expect(pages.map((page) => [Math.round(page.getWidth()), Math.round(page.getHeight())])).toEqual([
      [300, 500],
      [595, 842],
    ]);
  });

  it('detect gives one JSON line an image, in order, in pixels after EXIF orientation', async () => {
    const { code, out } = await fotoplan('detect', inFolder('0.jpg'), inFolder('1.jpg'), '--json');
    expect(code).toBe(0);
    const lines = out
      .trim()
      .split('\n')
      .map(
        (line) =>
          JSON.parse(line) as {
            file: string;
            width: number;
            height: number;
            quad: [number, number][];
            confidence: number;
            upright: boolean;
            ms: number;
            boundary: null;
          },
      );
    expect(lines.map((line) => line.file)).toEqual([inFolder('0.jpg'), inFolder('1.jpg')]);
    lines.forEach((line, i) => {
      expect([line.width, line.height]).toEqual([900, 1200]);
      line.quad.forEach(([x, y], k) =>
        expect(Math.hypot(x - photos[i]!.corners[k]!.x, y - photos[i]!.corners[k]!.y)).toBeLessThan(8),
      );
      expect(line).toMatchObject({
        confidence: expect.any(Number) as number,
        upright: expect.any(Boolean) as boolean,
        ms: expect.any(Number) as number,
      });
    });
  });

  it('render writes the flat page as a PNG at the resolution asked for', async () => {
    const { code } = await fotoplan(
      'render',
      inFolder('0.jpg'),
      '-o',
      inFolder('page.png'),
      '--finish',
      'daylight',
      '--dpi',
      '72',
    );
    expect(code).toBe(0);
    const { width, height, format } = await sharp(inFolder('page.png')).metadata();
    expect([format, height]).toEqual(['png', 842]);
    expect(Math.abs(width - 595.3)).toBeLessThan(1);
    await fotoplan(
      'render',
      inFolder('0.jpg'),
      '-o',
      inFolder('whole.png'),
      '--finish',
      'asshot',
      '--outline',
      'whole',
    );
    expect(await sharp(inFolder('whole.png')).metadata()).toMatchObject({ width: 900, height: 1200 });
  });

  it('bind makes one PDF in the order given, names a bad photo, and still binds the others', async () => {
    const { code, err } = await fotoplan(
      'bind',
      inFolder('1.jpg'),
      inFolder('letter.jpg'),
      inFolder('0.jpg'),
      '-o',
      inFolder('out.pdf'),
      '--paper',
      'letter',
    );
    expect(code).toBe(1);
    expect(err.trim().split('\n')).toEqual([
      '“letter.jpg” is not a photo. Choose a JPEG, PNG, WebP, AVIF, HEIC, JPEG XL, TIFF, GIF, BMP or PDF.',
    ]);
    const pdf = await PDFDocument.load(readFileSync(inFolder('out.pdf')));
    expect(pdf.getPages().map((page) => [Math.round(page.getWidth()), Math.round(page.getHeight())])).toEqual([
      [612, 792],
      [612, 792],
    ]);
  });

  it('bind keeps to a limit exactly, or says that it cannot and leaves nothing behind', async () => {
    const free = await fotoplan('bind', inFolder('0.jpg'), '-o', inFolder('free.pdf'));
    expect(free.code).toBe(0);
    const most = Math.round(readFileSync(inFolder('free.pdf')).length * 0.93);
    expect(
      (await fotoplan('bind', inFolder('0.jpg'), '-o', inFolder('tight.pdf'), '--max-bytes', String(most))).code,
    ).toBe(0);
    expect(readFileSync(inFolder('tight.pdf')).length).toBeLessThanOrEqual(most);
    const impossible = await fotoplan('bind', inFolder('0.jpg'), '-o', inFolder('none.pdf'), '--max-bytes', '900');
    expect(impossible.code).toBe(1);
    expect(impossible.err).toMatch(
      /^Page 1 alone is too much for 900 bytes .* it needs about \d+ KB\. Choose --finish press, .* or ask for a higher limit\.\n$/,
    );
    expect(existsSync(inFolder('none.pdf'))).toBe(false);
  });

  it.each([
    [['fly'], 'There is no command “fly”'],
    [['detect'], 'Name at least one photo'],
    [['bind', 'a.jpg'], 'Say where the result goes'],
    [['render', 'a.jpg', '-o', 'x.png', '--finish', 'neon'], '--finish must be one of'],
    [['render', 'a.jpg', '-o', 'x.png', '--outline', '1,2,3'], '--outline must be'],
    [['bind', 'a.jpg', '-o', 'x.pdf', '--max-bytes', 'lots'], '--max-bytes must be'],
    [['detect', 'a.jpg', '--colour'], 'Unknown option'],
    [['bind', 'a.jpg', '-o', 'x.pdf', '--parts'], '--parts needs --max-bytes'],
    [['bind', 'a.jpg', '-o', 'x.pdf', '--lang', '!'], '--lang must be'],
  ])('answers bad arguments %j with exit code 2 and one sentence', async (args, words) => {
    const { code, err } = await fotoplan(...args);
    expect(code).toBe(2);
    expect(err).toContain(words);
    expect(err.trim().split('\n')).toHaveLength(1);
  });

  it('names a file that cannot be read, and gives it a line of its own', async () => {
    const result = await fotoplan('detect', inFolder('gone.jpg'), inFolder('0.jpg'));
    const message = `“${inFolder('gone.jpg')}” cannot be read. Check the path.`;
    expect([result.code, result.err]).toEqual([1, `${message}\n`]);
    expect(linesOf(result)).toEqual([
      { schema: 1, file: inFolder('gone.jpg'), error: { code: 'NOT_FOUND', message } },
      expect.objectContaining({ schema: 1, file: inFolder('0.jpg'), width: 900 }),
    ]);
  });
});

describe('what explains the program', () => {
  it.each([
    [['--help'], /Usage: fotoplan COMMAND/],
    [['help', 'bind'], /--max-bytes SIZE/],
    [['bind', '--help'], /--author NAME/],
    [['inspect', 'a.jpg', '-h'], /Says what the ready check sees/],
    [['--version'], /^fotoplan \d+\.\d+\.\d+\n$/],
    [['render', '--version'], /^fotoplan \d/],
    [['man'], /^\.TH FOTOPLAN 1/],
    [['completions', 'bash'], /complete -o default -F _fotoplan fotoplan/],
    [['completions', 'zsh'], /^#compdef fotoplan/],
    [['completions', 'fish'], /complete -c fotoplan/],
  ])('answers %j on standard output, exit code 0', async (args, words) => {
    const { code, out, err } = await fotoplan(...args);
    expect([code, err]).toEqual([0, '']);
    expect(Buffer.from(out, 'latin1').toString('utf8')).toMatch(words);
  });

  it('shows help on standard error, exit code 2, where nothing was asked for', async () => {
    const { code, out, err } = await fotoplan();
    expect([code, out]).toEqual([2, '']);
    expect(err).toContain('Usage:');
  });

  it('keeps within 80 columns', async () => {
    for (const name of ['detect', 'render', 'bind', 'inspect']) {
      const text = Buffer.from((await fotoplan(name, '--help')).out, 'latin1').toString('utf8');
      expect(text.split('\n').filter((line) => line.length > 80)).toEqual([]);
    }
  });
});

describe('standard input and output', () => {
  it('renders Press in the dots an inch that are asked for', async () => {
    const { out } = await fed(
      readFileSync(inFolder('0.jpg')),
      'render',
      '-',
      '-o',
      '-',
      '--finish',
      'press',
      '--dpi',
      '72',
    );
    const { width = 0, height = 0 } = await sharp(Buffer.from(out, 'latin1')).metadata();
    expect(Math.abs(Math.max(width, height) - 842)).toBeLessThanOrEqual(1);
  });

  it('take a photo and give its page', async () => {
    const { code, out, err } = await fed(readFileSync(inFolder('0.jpg')), 'render', '-', '-o', '-', '--dpi', '72');
    expect([code, err]).toEqual([0, '']);
    expect(await sharp(Buffer.from(out, 'latin1')).metadata()).toMatchObject({
      format: 'png',
      height: 842,
      density: 72,
    });
  });

  it('take a list of files, and a photo is called - in what is said of it', async () => {
    const listed = await fed(`${inFolder('1.jpg')}\n${inFolder('0.jpg')}\n`, 'detect', '--from', '-');
    expect(linesOf(listed).map(({ file }) => file)).toEqual([inFolder('1.jpg'), inFolder('0.jpg')]);
    const named = await fed(readFileSync(inFolder('1.jpg')), 'inspect', '-');
    expect(linesOf(named)[0]).toMatchObject({ schema: 1, file: '-', width: 900 });
    expect((await fed('', 'detect', '-', '-')).err).toBe('Standard input can be read once only. Give “-” once.\n');
  });

  it('end without a word where the reader stops reading', async () => {
    const many = Array.from({ length: 40 }, () => inFolder('letter.jpg')).join(' ');
    const { err } = await new Promise<{ err: string }>((resolve) => {
      execFile(
        'sh',
        ['-c', `bin/fotoplan detect ${many} 2>&1 1>/dev/full | head -c 0; bin/fotoplan help | head -n 1 >/dev/null`],
        (_error, _out, stderr) => resolve({ err: stderr }),
      );
    });
    expect(err).toBe('');
  });
});

describe('where the result goes', () => {
  const bind = (...args: string[]): Promise<Result> => fotoplan('bind', ...args);
  const made = (): string => {
    writeFileSync(inFolder('made.pdf'), 'mine');
    return inFolder('made.pdf');
  };
  const kept = (): string => readFileSync(inFolder('made.pdf'), 'latin1');

  it('is never one of the inputs, whatever it is called, with --force either', async () => {
    writeFileSync(inFolder('photo.pdf'), readFileSync(inFolder('0.jpg')));
    symlinkSync(inFolder('photo.pdf'), inFolder('link.pdf'));
    for (const to of ['photo.pdf', 'link.pdf', '../' + path.basename(folder) + '/photo.pdf']) {
      const { code, err } = await bind(inFolder('photo.pdf'), '-o', path.join(folder, to), '--force');
      expect([code, err]).toEqual([2, expect.stringContaining('is one of the inputs')]);
    }
    expect(readFileSync(inFolder('photo.pdf')).equals(readFileSync(inFolder('0.jpg')))).toBe(true);
  });

  it('replaces a file only with --force', async () => {
    expect(await bind(inFolder('0.jpg'), '-o', made())).toMatchObject({
      code: 2,
      err: expect.stringContaining('add --force') as string,
    });
    expect(kept()).toBe('mine');
    expect((await bind(inFolder('0.jpg'), '-o', made(), '--force')).code).toBe(0);
    expect(kept().slice(0, 5)).toBe('%PDF-');
  });

  it.each([
    ['a folder', () => folder, 'is a folder'],
    ['a device', () => '/dev/null', 'is not a file'],
    ['nowhere', () => inFolder('none/out.pdf'), 'There is no folder'],
  ])('is not %s, which is said before any work', async (_, to, words) => {
    const { code, err } = await bind(inFolder('0.jpg'), '-o', to());
    expect([code, err]).toEqual([2, expect.stringContaining(words)]);
  });

  it('is a PNG for render', async () =>
    expect(await fotoplan('render', inFolder('0.jpg'), '-o', inFolder('page.jpg'))).toMatchObject({
      code: 2,
      err: expect.stringContaining('should end with .png') as string,
    }));
});

describe('what bind is told', () => {
  it('takes a folder by the order of names, turns, says who made it and in which language', async () => {
    mkdirSync(inFolder('set'));
    for (const [from, to] of [
      ['0', 'page10'],
      ['1', 'page9'],
    ])
      writeFileSync(inFolder(`set/${to}.jpg`), readFileSync(inFolder(`${from}.jpg`)));
    writeFileSync(inFolder('set/notes.txt'), 'no photo');
    const { code, err } = await fotoplan(
      'bind',
      inFolder('set'),
      '-o',
      inFolder('set.pdf'),
      '--rotate',
      '90',
      '--author',
      'Maren Tolvanen',
      '--lang',
      'de',
      '--jobs',
      '1',
      '--quiet',
      '--dpi',
      '75',
      '--paper',
      'a4',
    );
    expect([code, err]).toEqual([0, '']);
    const pdf = await PDFDocument.load(readFileSync(inFolder('set.pdf')), { updateMetadata: false });
    expect(pdf.getPages().map((page) => Math.round(page.getWidth()))).toEqual([842, 842]);
    expect([pdf.getAuthor(), pdf.getTitle()]).toEqual(['Maren Tolvanen', 'set']);
    expect(String(pdf.catalog.get(PDFName.of('Lang')))).toContain('de');
  });

  it('tells what the owner of a PDF forbids, and takes its pages', async () => {
    const handout = await PDFDocument.create();
    handout.addPage([300, 400]);
    handout.encrypt({
      ownerPassword: 'the office',
      permissions: { printing: 'highResolution', copying: true, annotating: true },
    });
    writeFileSync(inFolder('handout.pdf'), await handout.save());
    const { code, err } = await fotoplan('bind', inFolder('handout.pdf'), '-o', inFolder('taken.pdf'), '--quiet');
    expect([code, err]).toEqual([
      0,
      expect.stringMatching(/handout\.pdf” does not want it to be changed\. The new file/),
    ]);
  });

  it('takes every page of a TIFF, and tells them apart', async () => {
    const [width, height] = [600, 800];
    const pages = await Promise.all(
      ['0', '1'].map((name) =>
        sharp(inFolder(`${name}.jpg`))
          .autoOrient()
          .resize(width, height, { fit: 'fill' })
          .raw()
          .toBuffer(),
      ),
    );
    await sharp(Buffer.concat(pages), { raw: { width, height: 2 * height, channels: 3, pageHeight: height } })
      .tiff({ compression: 'lzw' })
      .toFile(inFolder('scan.tif'));
    const bound = await fotoplan('bind', inFolder('scan.tif'), inFolder('0.jpg'), '-o', inFolder('scan.pdf'));
    expect([bound.code, bound.err]).toEqual([0, '']);
    expect((await PDFDocument.load(readFileSync(inFolder('scan.pdf')))).getPageCount()).toBe(3);
    const one = await fotoplan('render', inFolder('scan.tif'), '-o', inFolder('one.png'));
    expect([one.code, one.err]).toEqual([2, expect.stringContaining('scan.tif” has 2. Save the one you want')]);
    // what is left of it is not taken for all of it
    const whole = readFileSync(inFolder('scan.tif'));
    writeFileSync(inFolder('half.tif'), whole.subarray(0, whole.length >> 1));
    const half = await fotoplan('bind', inFolder('half.tif'), '-o', inFolder('half.pdf'));
    expect([half.code, half.err]).toEqual([1, expect.stringContaining('half.tif” breaks off before its end.')]);
    const { out } = await fotoplan('detect', inFolder('scan.tif'));
    expect(
      out
        .trim()
        .split('\n')
        .map((line) => (JSON.parse(line) as { file: string }).file),
    ).toEqual([1, 2].map((page) => `${inFolder('scan.tif')}, page ${page}`));
  });

  it('takes a JPEG that breaks off as far as it goes, and says what is missing', async () => {
    const whole = readFileSync(inFolder('0.jpg'));
    writeFileSync(inFolder('cut.jpg'), whole.subarray(0, Math.round(0.7 * whole.length)));
    const bound = await fotoplan('bind', inFolder('cut.jpg'), '-o', inFolder('cut.pdf'));
    expect([bound.code, bound.err]).toEqual([0, expect.stringMatching(/cut\.jpg” breaks off: \d+ % of it is missing/)]);
    expect((await PDFDocument.load(readFileSync(inFolder('cut.pdf')))).getPageCount()).toBe(1);
    const { out } = await fotoplan('inspect', inFolder('cut.jpg'));
    const seen = JSON.parse(out) as { findings: string[]; missing: { side: string; share: number } };
    expect(seen.findings).toContain('incomplete');
    expect(seen.missing.share).toBeGreaterThan(0.1);
  });

  it('reads JPEG XL as the HEIC of the same picture', async () => {
    const [xl, heic] = await Promise.all(
      ['jxl', 'heic'].map(async (format) => {
        const to = inFolder(`from-${format}.png`);
        const { code, err } = await fotoplan(
          ...['render', `e2e/files/page.${format}`, '-o', to, '--finish', 'asshot', '--outline', 'whole'],
        );
        expect([code, err]).toEqual([0, '']);
        return sharp(to).raw().toBuffer();
      }),
    );
    expect(xl!.length).toBe(heic!.length);
    let difference = 0;
    for (let k = 0; k < xl!.length; k++) difference += Math.abs(xl![k]! - heic![k]!);
    expect(difference / xl!.length).toBeLessThan(4);
  });

  it('makes numbered parts where one file would be too large', async () => {
    const one = await fotoplan('bind', inFolder('0.jpg'), '-o', inFolder('one.pdf'), '--finish', 'press');
    expect(one.code).toBe(0);
    const most = Math.round(1.5 * readFileSync(inFolder('one.pdf')).length);
    const args = [
      'bind',
      inFolder('0.jpg'),
      inFolder('1.jpg'),
      '-o',
      inFolder('parts.pdf'),
      '--finish',
      'press',
      '--max-bytes',
      String(most),
    ];
    const refused = await fotoplan(...args);
    expect(refused.code).toBe(1);
    expect(refused.err).toContain('Leave pages out, ask for a higher limit or add --parts for 2 numbered files.');
    expect((await fotoplan(...args, '--parts')).code).toBe(0);
    for (const part of ['parts-1.pdf', 'parts-2.pdf'])
      expect(readFileSync(inFolder(part)).length).toBeLessThanOrEqual(most);
    expect(existsSync(inFolder('parts.pdf'))).toBe(false);
    // four times two pages are rendered until they fit or cannot
  }, 300_000);
});

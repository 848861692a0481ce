import { execFile } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { PDFDocument } from '@cantoo/pdf-lib';
import sharp from 'sharp';
import { createScene } from '../demo/camera/scene';
import { photograph, type Photograph } from '../demo/camera/photograph';
import { encodePhotograph } from '../demo/camera/savePhotograph';

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

const fotoplan = (...args: string[]): Promise<{ code: number; out: string; err: string }> =>
  new Promise((resolve) => {
    execFile(process.execPath, [path.resolve('bin/fotoplan'), ...args], { encoding: 'utf8' }, (error, out, err) =>
      resolve({ code: typeof error?.code === 'number' ? error.code : 0, out, err }),
    );
  });

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
      '“letter.jpg” is not a photo. Choose a JPEG, PNG, WebP, HEIC, TIFF or PDF.',
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
    expect(impossible.err).toContain('too much for 900 bytes');
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
  ])('answers bad arguments %j with exit code 2 and one sentence', async (args, words) => {
    const { code, err } = await fotoplan(...args);
    expect(code).toBe(2);
    expect(err).toContain(words);
    expect(err.trim().split('\n')).toHaveLength(1);
  });

  it('names a file that cannot be read', async () => {
    const { code, err } = await fotoplan('detect', inFolder('gone.jpg'));
    expect([code, err]).toEqual([1, `“${inFolder('gone.jpg')}” cannot be read. Check the path.\n`]);
  });
});

import fc from 'fast-check';
import { readArguments, readCount, readOutline, readSize, readTurns } from './readArguments';
import { UsageError } from './usageError';

describe('the command line’s arguments', () => {
  it('are split into options and files, in any order', () => {
    const given = readArguments('bind', ['a.jpg', '-o', 'out.pdf', '--text', 'b.jpg', '--', '--odd.jpg']);
    expect([given.value('output'), given.has('text'), given.has('force')]).toEqual(['out.pdf', true, false]);
    expect(given.files).toEqual(['a.jpg', 'b.jpg', '--odd.jpg']);
  });

  it('name the fix where an option is unknown, lacks its value or has none of its values', () => {
    expect(() => readArguments('detect', ['--tidy'])).toThrow(UsageError);
    expect(() => readArguments('detect', ['--tidy'])).toThrow('fotoplan detect --help');
    expect(() => readArguments('bind', ['-o'])).toThrow(UsageError);
    expect(() => readArguments('bind', ['--finish', 'sepia'])).toThrow(/must be one of .*daylight.*“sepia”/);
    expect(() => readArguments('bind', ['--rotate', '45'])).toThrow('--rotate must be one of 0, 90, 180, 270');
  });

  it('count in whole numbers above 0', () => {
    const dpi = (value: string) => readCount(readArguments('bind', [`--dpi=${value}`]), 'dpi');
    fc.assert(fc.property(fc.integer({ min: 1, max: 1e6 }), (n) => dpi(String(n)) === n));
    for (const bad of ['0', '-3', '1.5', 'many', '']) expect(() => dpi(bad)).toThrow('--dpi must be a whole number');
    expect(readCount(readArguments('bind', []), 'dpi')).toBeNull();
  });

  it('take sizes with and without units', () => {
    const size = (value: string) => readSize(readArguments('bind', [`--max-bytes=${value}`]), 'max-bytes');
    expect(['300000', '300k', '300kB', '0.3M', '1e6', '2g'].map(size)).toEqual([3e5, 3e5, 3e5, 3e5, 1e6, 2e9]);
    for (const bad of ['lots', '', '0', '-5', '3 apples', 'k']) expect(() => size(bad)).toThrow('--max-bytes must be');
  });

  it('turn clockwise by quarters', () =>
    expect([[], ['--rotate', '270']].map((args) => readTurns(readArguments('render', args)))).toEqual([0, 3]));

  it('take corners that begin with a minus', () =>
    expect(readArguments('render', ['--outline', '-10,0,9,0,9,9,0,9', 'a.jpg']).value('outline')).toBe(
      '-10,0,9,0,9,9,0,9',
    ));
});

describe('an outline given by hand', () => {
  it('is four corners clockwise, or a word', () => {
    expect(readOutline('10,20,110.5,20,110,180,10,180')).toEqual([
      { x: 10, y: 20 },
      { x: 110.5, y: 20 },
      { x: 110, y: 180 },
      { x: 10, y: 180 },
    ]);
    expect([readOutline(undefined), readOutline('auto'), readOutline('whole')]).toEqual(['auto', 'auto', 'whole']);
  });

  it.each([
    ['seven numbers', '1,2,3,4,5,6,7'],
    ['no numbers', 'a,b,c,d,e,f,g,h'],
    ['gaps', '1,,3,4,5,6,7,8'],
    ['crossed sides', '0,0,100,100,100,0,0,100'],
    ['corners the wrong way round', '0,0,0,100,100,100,100,0'],
    ['three corners on one line', '0,0,50,0,100,0,0,100'],
  ])('is refused with %s', (_, value) => {
    expect(() => readOutline(value)).toThrow(UsageError);
  });
});

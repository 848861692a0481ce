import fc from 'fast-check';
import { readArguments, readCount, readFiles, readFinish, readOutline, readOutput, readPaper } from './readArguments';
import { UsageError } from './usageError';

describe('the command line’s arguments', () => {
  it('are split into options and files, in any order', () => {
    const { values, positionals } = readArguments(['a.jpg', '-o', 'out.pdf', 'b.jpg'], {
      output: { type: 'string', short: 'o' },
    });
    expect(values.output).toBe('out.pdf');
    expect(positionals).toEqual(['a.jpg', 'b.jpg']);
  });

  it('name the fix where an option is unknown or lacks its value', () => {
    expect(() => readArguments(['--tidy'], {})).toThrow(UsageError);
    expect(() => readArguments(['--tidy'], {})).toThrow('fotoplan --help');
    expect(() => readArguments(['-o'], { output: { type: 'string', short: 'o' } })).toThrow(UsageError);
  });

  it('need a photo and a place for the result', () => {
    expect(() => readFiles([])).toThrow('at least one photo');
    expect(readFiles(['a.jpg'])).toEqual(['a.jpg']);
    expect(() => readOutput(undefined, '.pdf')).toThrow('-o OUT.pdf');
  });

  it('know finishes and papers by name, with the usual one where none is named', () => {
    expect([readFinish(undefined), readFinish('press')]).toEqual(['daylight', 'press']);
    expect([readPaper(undefined), readPaper('letter')]).toEqual(['auto', 'letter']);
    expect(() => readFinish('sepia')).toThrow(/must be one of .*daylight.*“sepia”/);
    expect(() => readPaper('foolscap')).toThrow(UsageError);
  });

  it('count in whole numbers above 0', () => {
    fc.assert(fc.property(fc.integer({ min: 1, max: 1e6 }), (n) => readCount(String(n), '--pages') === n));
    for (const bad of ['0', '-3', '1.5', 'many', ''])
      expect(() => readCount(bad, '--pages')).toThrow('--pages must be a whole number');
    expect(readCount(undefined, '--pages')).toBeNull();
  });
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

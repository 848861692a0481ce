import { findProgram, installCommands, needProgram, pathWith, type Machine, type Program } from './programs';

const machine = (
  platform: NodeJS.Platform,
  files: readonly string[],
  env: Readonly<Record<string, string>> = {},
): Machine => ({ platform, env, exists: (file) => files.includes(file) });

const DEBIAN = { PATH: '/usr/local/bin:/usr/bin' };
const MAC = { PATH: '/usr/bin:/bin' };
const WINDOWS = {
  Path: 'C:\\Windows;D:\\tools',
  PROGRAMFILES: 'C:\\Program Files',
  LOCALAPPDATA: 'C:\\Users\\reader\\AppData\\Local',
};
const CHROME = '/Applications/Google Chrome.app/Contents/MacOS/Google Chrome';
const USERS_CHROME = 'C:\\Users\\reader\\AppData\\Local\\Google\\Chrome\\Application\\chrome.exe';
const PLAYWRIGHTS = '/home/reader/.cache/ms-playwright/chromium/chrome';

describe('findProgram', () => {
  it.each<[string, Program, Machine, readonly string[], string | null]>([
    ['from PATH', 'chromium', machine('linux', ['/usr/bin/chromium'], DEBIAN), [], '/usr/bin/chromium'],
    [
      'another name on PATH',
      'chromium',
      machine('linux', ['/usr/local/bin/google-chrome'], DEBIAN),
      [],
      '/usr/local/bin/google-chrome',
    ],
    [
      'the first folder of PATH before the first name',
      'chromium',
      machine('linux', ['/usr/local/bin/google-chrome', '/usr/bin/chromium'], DEBIAN),
      [],
      '/usr/local/bin/google-chrome',
    ],
    [
      'a server program that PATH does not show',
      'nginx',
      machine('linux', ['/usr/sbin/nginx'], DEBIAN),
      [],
      '/usr/sbin/nginx',
    ],
    ['no PATH at all', 'qpdf', machine('linux', ['/usr/bin/qpdf']), [], '/usr/bin/qpdf'],
    [
      'Homebrew on Apple silicon',
      'qpdf',
      machine('darwin', ['/opt/homebrew/bin/qpdf'], MAC),
      [],
      '/opt/homebrew/bin/qpdf',
    ],
    [
      'Homebrew on Intel',
      'pdftotext',
      machine('darwin', ['/usr/local/bin/pdftotext'], MAC),
      [],
      '/usr/local/bin/pdftotext',
    ],
    ['an installed Chrome on macOS', 'chromium', machine('darwin', [CHROME], MAC), [], CHROME],
    [
      'a PATH with semicolons, and .exe',
      'qpdf',
      machine('win32', ['D:\\tools\\qpdf.exe'], WINDOWS),
      [],
      'D:\\tools\\qpdf.exe',
    ],
    ['a Chrome installed for one user', 'chromium', machine('win32', [USERS_CHROME], WINDOWS), [], USERS_CHROME],
    ['Playwright’s own, last', 'chromium', machine('linux', [PLAYWRIGHTS], DEBIAN), [PLAYWRIGHTS], PLAYWRIGHTS],
    [
      'an installed one before Playwright’s own',
      'chromium',
      machine('linux', [PLAYWRIGHTS, '/usr/bin/chromium'], DEBIAN),
      [PLAYWRIGHTS],
      '/usr/bin/chromium',
    ],
    [
      'what a setting names, whatever there is',
      'chromium',
      machine('linux', ['/usr/bin/chromium'], { ...DEBIAN, FOTOPLAN_CHROMIUM: '/opt/other' }),
      [],
      '/opt/other',
    ],
    ['no browser of a name that only another program has', 'qpdf', machine('win32', [USERS_CHROME], WINDOWS), [], null],
    ['nothing', 'nginx', machine('darwin', [], MAC), [], null],
  ])('%s', (_case, program, on, more, found) => {
    expect(findProgram(program, on, more)).toBe(found);
  });
});

describe('what is missing', () => {
  it.each<[NodeJS.Platform, readonly string[]]>([
    ['linux', ['apt-get update', 'apt-get install -y --no-install-recommends chromium poppler-utils']],
    ['darwin', ['brew install --cask chromium', 'brew install poppler']],
    ['win32', ['winget install Google.Chrome', 'winget install oschwartz10612.Poppler']],
  ])('is installed on %s', (platform, commands) => {
    expect(installCommands(['chromium', 'pdftotext'], machine(platform, []))).toEqual(commands);
    expect(installCommands([], machine(platform, []))).toEqual([]);
  });

  it('is named with its command where a test needs it', () => {
    expect(() => needProgram('qpdf', machine('darwin', [], MAC))).toThrow('The tests need qpdf. brew install qpdf');
  });

  it('is no longer missing to what calls programs by name', () => {
    expect(
      pathWith(
        ['qpdf', 'pdftotext'],
        machine('darwin', ['/opt/homebrew/bin/qpdf', '/opt/homebrew/bin/pdftotext'], MAC),
      ),
    ).toBe('/usr/bin:/bin:/opt/homebrew/bin');
    expect(pathWith(['qpdf'], machine('linux', ['/usr/bin/qpdf'], DEBIAN))).toBe('/usr/local/bin:/usr/bin');
  });
});

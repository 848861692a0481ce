import { existsSync } from 'node:fs';
import path from 'node:path';

/** The programs beside Node that tests and benches use, and how each comes onto a machine. */
const PROGRAMS = {
  chromium: {
    names: ['chromium', 'chromium-browser', 'google-chrome-stable', 'google-chrome'],
    debian: 'chromium',
    homebrew: '--cask chromium',
    winget: 'Google.Chrome',
  },
  qpdf: { names: ['qpdf'], debian: 'qpdf', homebrew: 'qpdf', winget: 'QPDF.QPDF' },
  pdftotext: { names: ['pdftotext'], debian: 'poppler-utils', homebrew: 'poppler', winget: 'oschwartz10612.Poppler' },
  nginx: { names: ['nginx'], debian: 'nginx-light', homebrew: 'nginx', winget: 'nginxinc.nginx' },
  firefox: {
    names: ['firefox-esr', 'firefox'],
    debian: 'firefox-esr',
    homebrew: '--cask firefox',
    winget: 'Mozilla.Firefox',
  },
  webKitDriver: { names: ['WebKitWebDriver'], debian: 'webkit2gtk-driver', homebrew: null, winget: null },
  xvfb: { names: ['xvfb-run'], debian: 'xvfb xauth', homebrew: null, winget: null },
  dbus: { names: ['dbus-run-session'], debian: 'dbus', homebrew: null, winget: null },
} as const;
export type Program = keyof typeof PROGRAMS;
/** The browsers besides Chromium, with what they need: where one is missing, its test is skipped by name. */
export const OTHER_BROWSERS = ['firefox', 'webKitDriver', 'xvfb', 'dbus'] as const satisfies readonly Program[];
/** Without these the tests cannot run. */
export const NEEDED_PROGRAMS = (Object.keys(PROGRAMS) as Program[]).filter(
  (program) => !(OTHER_BROWSERS as readonly Program[]).includes(program),
);

/** What the choice of a path depends on. */
export interface Machine {
  readonly platform: NodeJS.Platform;
  readonly env: Readonly<Record<string, string | undefined>>;
  readonly exists: (file: string) => boolean;
}
export const thisMachine: Machine = { platform: process.platform, env: process.env, exists: existsSync };

const pathsOf = (platform: NodeJS.Platform): path.PlatformPath => (platform === 'win32' ? path.win32 : path.posix);

/** Folders that hold programs, though PATH may lack them: Debian's own for servers, and Homebrew's. */
const MORE_FOLDERS: Partial<Record<NodeJS.Platform, readonly string[]>> = {
  linux: ['/usr/bin', '/usr/sbin'],
  darwin: ['/opt/homebrew/bin', '/usr/local/bin'],
};

/** Where a browser is installed that no folder of programs shows. */
function installedBrowsers({ platform, env }: Machine): readonly string[] {
  if (platform === 'darwin')
    return ['Chromium', 'Google Chrome'].map((name) => `/Applications/${name}.app/Contents/MacOS/${name}`);
  if (platform !== 'win32') return [];
  return [env.PROGRAMFILES, env['PROGRAMFILES(X86)'], env.LOCALAPPDATA].flatMap((folder) =>
    folder === undefined ? [] : [path.win32.join(folder, 'Google', 'Chrome', 'Application', 'chrome.exe')],
  );
}

/**
 * Where a program is: what FOTOPLAN_CHROMIUM (FOTOPLAN_QPDF …) names, else the first in the folders of PATH, else the first
 * where the system usually puts it.
 * @param more - further places to look in last, such as a browser that a package brought
 * @returns null where it is not there
 */
export function findProgram(program: Program, machine = thisMachine, more: readonly string[] = []): string | null {
  const { platform, env, exists } = machine;
  const named = env[`FOTOPLAN_${program.toUpperCase()}`];
  if (named !== undefined) return named;
  const paths = pathsOf(platform);
  const folders = [
    ...(env.PATH ?? env.Path ?? '').split(paths.delimiter).filter((folder) => folder !== ''),
    ...(MORE_FOLDERS[platform] ?? []),
  ];
  const files = folders.flatMap((folder) =>
    PROGRAMS[program].names.map((name) => paths.join(folder, platform === 'win32' ? `${name}.exe` : name)),
  );
  const places = [...files, ...(program === 'chromium' ? installedBrowsers(machine) : []), ...more];
  return places.find(exists) ?? null;
}

/** @throws Error naming what to install */
export function needProgram(program: Program, machine = thisMachine, more: readonly string[] = []): string {
  const found = findProgram(program, machine, more);
  if (found === null) throw new Error(`The tests need ${program}. ${installCommands([program], machine).join(' && ')}`);
  return found;
}

/** What installs these programs on this system, one command after another. */
export function installCommands(programs: readonly Program[], { platform }: Machine): readonly string[] {
  if (programs.length === 0) return [];
  const each = (of: 'debian' | 'homebrew' | 'winget'): string[] =>
    programs.flatMap((program) => PROGRAMS[program][of] ?? []);
  if (platform === 'darwin') return each('homebrew').map((name) => `brew install ${name}`);
  if (platform === 'win32') return each('winget').map((name) => `winget install ${name}`);
  return ['apt-get update', `apt-get install -y --no-install-recommends ${each('debian').join(' ')}`];
}

/** The same PATH with the folders of these programs in it, for what calls them by name. */
export function pathWith(programs: readonly Program[], machine = thisMachine): string {
  const paths = pathsOf(machine.platform);
  const before = machine.env.PATH ?? machine.env.Path ?? '';
  const known = new Set(before.split(paths.delimiter));
  const more = programs.flatMap((program) => {
    const found = findProgram(program, machine);
    return found === null || known.has(paths.dirname(found)) ? [] : [paths.dirname(found)];
  });
  return [before, ...new Set(more)].join(paths.delimiter);
}

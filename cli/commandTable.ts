import { FINISHES } from '../core/imaging/finish/finishSettings';
import { PAPERS } from '../core/work/paper/paperSize';

/** An option of the command line: help, manual page, completions and the reading of arguments are all made from this. */
export interface OptionEntry {
  readonly name: string;
  /** One letter. */
  readonly short?: string;
  /** What its value is called; none for a switch. */
  readonly value?: string;
  /** The values it knows, where it knows them all. */
  readonly choices?: readonly string[];
  /** Half a sentence. */
  readonly says: string;
}

export interface CommandEntry {
  /** What follows its name, before the options. */
  readonly takes: string;
  /** One sentence. */
  readonly says: string;
  readonly options: readonly OptionEntry[];
}

const HELP: OptionEntry = { name: 'help', short: 'h', says: 'show this help' };
const VERSION: OptionEntry = { name: 'version', short: 'V', says: 'show which version this is' };
const JSON_LINES: OptionEntry = { name: 'json', says: 'one line of JSON for each file, which is what comes anyway' };
const FROM: OptionEntry = {
  name: 'from',
  value: 'FILE',
  says: 'read names of files from FILE, one a line; - for standard input',
};
const JOBS: OptionEntry = {
  name: 'jobs',
  short: 'j',
  value: 'N',
  says: 'work on N photos at a time (as many as there are cores)',
};
const QUIET: OptionEntry = { name: 'quiet', short: 'q', says: 'show no progress' };
const FORCE: OptionEntry = { name: 'force', short: 'f', says: 'replace the output where it exists' };
const FINISH: OptionEntry = {
  name: 'finish',
  value: 'FINISH',
  choices: FINISHES,
  says: 'how the page is lit and toned (daylight)',
};
const OUTLINE: OptionEntry = {
  name: 'outline',
  value: 'OUTLINE',
  choices: ['auto', 'whole'],
  says: 'where the page is: auto, whole (the whole photo), or its corners as x,y,x,y,x,y,x,y clockwise from top left (auto)',
};
const ROTATE: OptionEntry = {
  name: 'rotate',
  value: 'DEGREES',
  choices: ['0', '90', '180', '270'],
  says: 'turn the page clockwise, on top of what was found (0)',
};
const output = (ending: string): OptionEntry => ({
  name: 'output',
  short: 'o',
  value: `OUT${ending}`,
  says: 'where the result goes; - for standard output',
});

const ALWAYS = [HELP, VERSION] as const;
const ON_MANY = [FROM, JOBS, QUIET] as const;

export const COMMANDS = {
  detect: {
    takes: 'FILE...',
    says: 'Finds where the page is in each photo: one line of JSON a photo.',
    options: [JSON_LINES, ...ON_MANY, ...ALWAYS],
  },
  render: {
    takes: 'FILE',
    says: 'Writes one photo’s page, flat and upright, as a PNG.',
    options: [
      output('.png'),
      FINISH,
      OUTLINE,
      ROTATE,
      {
        name: 'dpi',
        value: 'N',
        says: 'dots an inch, taking the page for a standard sheet; never more than the photo has (all it has)',
      },
      FORCE,
      QUIET,
      ...ALWAYS,
    ],
  },
  bind: {
    takes: 'FILE...',
    says: 'Makes one PDF of photos, PDFs and folders of them, in the order given.',
    options: [
      output('.pdf'),
      FINISH,
      { name: 'paper', value: 'PAPER', choices: PAPERS, says: 'the sheets that pages are laid on (auto)' },
      { name: 'max-bytes', value: 'SIZE', says: 'how large the file may be, as 900000, 900k or 1.5M' },
      { name: 'parts', says: 'make several numbered files where one would be larger than --max-bytes' },
      { name: 'dpi', value: 'N', says: 'dots an inch at most (200)' },
      OUTLINE,
      ROTATE,
      { name: 'text', says: 'read the print, so that the file can be searched' },
      { name: 'lang', value: 'LANGUAGE', says: 'what the pages are written in, as en or pt-BR (en)' },
      {
        name: 'name',
        value: 'PATTERN',
        says: 'the title, and the file’s name where OUT is a folder; {date} is today, {pages} the number of pages',
      },
      { name: 'author', value: 'NAME', says: 'who made it' },
      FORCE,
      ...ON_MANY,
      ...ALWAYS,
    ],
  },
  inspect: {
    takes: 'FILE...',
    says: 'Says what the ready check sees on each photo: one line of JSON a photo.',
    options: [JSON_LINES, ...ON_MANY, ...ALWAYS],
  },
} as const satisfies Readonly<Record<string, CommandEntry>>;

export type CommandName = keyof typeof COMMANDS;

export const isCommand = (name: string): name is CommandName => Object.hasOwn(COMMANDS, name);

/** What explains the program itself. */
export const SHELLS = ['bash', 'zsh', 'fish'] as const;
export type Shell = (typeof SHELLS)[number];
export const OTHER_COMMANDS = {
  completions: { takes: SHELLS.join('|'), says: 'Prints what a shell needs to complete options.' },
  man: { takes: '', says: 'Prints the manual page.' },
  help: { takes: '[COMMAND]', says: 'Shows help.' },
} as const;

/** What holds for all commands, a paragraph each. */
export const NOTES = [
  'FILE is a photo (JPEG, PNG, WebP, AVIF, HEIC, JPEG XL, TIFF, GIF or BMP), a folder of photos, or - for a photo on standard input; bind takes PDFs, too.',
  'The output is written beside its place and renamed. It is never one of the inputs, and replaces a file only with --force.',
  'Exit code: 0 where all went well, 1 where a file could not be used (the others still go through), 2 for arguments that make no sense.',
] as const;

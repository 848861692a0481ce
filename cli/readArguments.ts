import { parseArgs } from 'node:util';
import { isConvexQuad, type Quad } from '../core/imaging/geometry/quad';
import { COMMANDS, type CommandEntry, type CommandName } from './commandTable';
import { UsageError } from './usageError';

/** What a command was called with. */
export interface Given {
  readonly files: readonly string[];
  /** Whether a switch was given. */
  readonly has: (option: string) => boolean;
  /** An option's value. */
  readonly value: (option: string) => string | undefined;
}

/**
 * Splits arguments into options and files, as the command's description has them.
 * @throws UsageError for an option it does not know, one without its value, or a value that is none of its choices
 */
export function readArguments(name: CommandName, args: readonly string[]): Given {
  const { options }: CommandEntry = COMMANDS[name];
  const { values, positionals } = split(name, args, options);
  for (const { name: option, choices } of options) {
    const value = values[option];
    // an outline's corners are read elsewhere
    if (choices === undefined || typeof value !== 'string' || option === 'outline' || choices.includes(value)) continue;
    throw new UsageError(`--${option} must be one of ${choices.join(', ')}, not “${value}”.`);
  }
  return {
    files: positionals,
    has: (option) => values[option] === true,
    value: (option) => {
      const value = values[option];
      return typeof value === 'string' ? value : undefined;
    },
  };
}

/** Corners may begin with a minus, which would be taken for an option. */
const joinedOutline = (args: readonly string[]): string[] => {
  const at = args.indexOf('--outline');
  if (at < 0 || args[at + 1] === undefined || !/^-[\d.]/.test(args[at + 1]!)) return [...args];
  return [...args.slice(0, at), `--outline=${args[at + 1]}`, ...args.slice(at + 2)];
};

function split(name: CommandName, args: readonly string[], options: CommandEntry['options']) {
  try {
    return parseArgs({
      args: joinedOutline(args),
      options: Object.fromEntries(
        options.map(({ name: option, short, value }) => [
          option,
          {
            type: value === undefined ? ('boolean' as const) : ('string' as const),
            ...(short === undefined ? {} : { short }),
          },
        ]),
      ),
      allowPositionals: true,
      strict: true,
    });
  } catch (error) {
    throw new UsageError(`${(error as Error).message.split('.')[0]}. Call fotoplan ${name} --help for what there is.`);
  }
}

/** A whole number of at least 1, or null where the option was left out. */
export function readCount(given: Given, option: string): number | null {
  const value = given.value(option);
  if (value === undefined) return null;
  const number = Number(value);
  if (!Number.isInteger(number) || number < 1)
    throw new UsageError(`--${option} must be a whole number above 0, not “${value}”.`);
  return number;
}

const UNITS = { '': 1, k: 1e3, m: 1e6, g: 1e9 } as const;

/** A size in bytes, or null where the option was left out. */
export function readSize(given: Given, option: string): number | null {
  const value = given.value(option);
  if (value === undefined) return null;
  const [, number = '', unit = ''] = /^(\d+(?:\.\d+)?(?:e\d+)?)\s*([kmg]?)b?$/i.exec(value) ?? [];
  const bytes = Math.floor(Number(number) * UNITS[unit.toLowerCase() as keyof typeof UNITS]);
  if (number === '' || bytes < 1)
    throw new UsageError(`--${option} must be a size as 900000, 900k or 1.5M, not “${value}”.`);
  return bytes;
}

/** Quarter turns clockwise. */
export const readTurns = (given: Given): number => Number(given.value('rotate') ?? 0) / 90;

export function readOutline(value: string | undefined): 'auto' | 'whole' | Quad {
  if (value === undefined || value === 'auto' || value === 'whole') return value ?? 'auto';
  const n = value.split(',').map((part) => (part.trim() === '' ? NaN : Number(part)));
  if (n.length !== 8 || n.some((x) => !Number.isFinite(x)))
    throw new UsageError('--outline must be whole, auto, or eight numbers x,y,x,y,x,y,x,y.');
  const quad: Quad = [
    { x: n[0]!, y: n[1]! },
    { x: n[2]!, y: n[3]! },
    { x: n[4]!, y: n[5]! },
    { x: n[6]!, y: n[7]! },
  ];
  if (!isConvexQuad(quad))
    throw new UsageError('--outline must go clockwise round the page (TL, TR, BR, BL) without crossing itself.');
  return quad;
}

import { parseArgs, type ParseArgsConfig } from 'node:util';
import { FINISHES, type Finish } from '../core/imaging/finish/finishSettings';
import { PAPERS, type Paper } from '../core/work/paper/paperSize';
import { isConvexQuad, type Quad } from '../core/imaging/geometry/quad';
import { UsageError } from './usageError';

/** Splits arguments into options and files. */
export function readArguments<T extends NonNullable<ParseArgsConfig['options']>>(args: readonly string[], options: T) {
  try {
    return parseArgs({ args: [...args], options, allowPositionals: true, strict: true });
  } catch (error) {
    throw new UsageError(`${(error as Error).message.split('.')[0]}. Call fotoplan --help for what there is.`);
  }
}

export function readFiles(files: readonly string[]): readonly string[] {
  if (files.length === 0) throw new UsageError('Name at least one photo.');
  return files;
}

export function readOutput(file: string | undefined, ending: string): string {
  if (file === undefined) throw new UsageError(`Say where the result goes: -o OUT${ending}.`);
  return file;
}

export const readFinish = (value: string | undefined): Finish => oneOf(value ?? 'daylight', FINISHES, '--finish');
export const readPaper = (value: string | undefined): Paper => oneOf(value ?? 'auto', PAPERS, '--paper');

function oneOf<T extends string>(value: string, known: readonly T[], option: string): T {
  if (!(known as readonly string[]).includes(value))
    throw new UsageError(`${option} must be one of ${known.join(', ')}, not “${value}”.`);
  return value as T;
}

/** A whole number of at least 1, or null where the option was left out. */
export function readCount(value: string | undefined, option: string): number | null {
  if (value === undefined) return null;
  const number = Number(value);
  if (!Number.isInteger(number) || number < 1)
    throw new UsageError(`${option} must be a whole number above 0, not “${value}”.`);
  return number;
}

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

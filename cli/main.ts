import path from 'node:path';
import { FotoplanError } from '../core/errors';
import { createPageCrew } from '../platform/node/pageCrew';
import { bind } from './bind';
import { detect } from './detect';
import { inspect } from './inspect';
import { render } from './render';
import { UsageError } from './usageError';

const COMMANDS = { detect, render, bind, inspect } as const;

const USAGE = `fotoplan: photos of paper pages in, one PDF out

  fotoplan detect IMG... --json
  fotoplan render IMG -o OUT.png [--finish asshot|daylight|pencil|press|board] [--outline whole|auto|x,y,x,y,x,y,x,y] [--dpi N]
  fotoplan bind IMG... -o OUT.pdf [--finish F] [--paper auto|a4|letter|a5|asshot] [--max-bytes N] [--text] [--name PATTERN]
  fotoplan inspect IMG... --json
`;

async function main(): Promise<number> {
  const [name, ...args] = process.argv.slice(2);
  if (name === undefined || name === '--help' || name === '-h') {
    process.stdout.write(USAGE);
    return name === undefined ? 2 : 0;
  }
  const command = Object.hasOwn(COMMANDS, name) ? COMMANDS[name as keyof typeof COMMANDS] : undefined;
  if (command === undefined)
    throw new UsageError(`There is no command “${name}”. Use one of: ${Object.keys(COMMANDS).join(', ')}.`);
  const crew = createPageCrew(path.join(import.meta.dirname, 'pageWorker.mjs'));
  try {
    return await command(args, crew);
  } finally {
    await crew.close();
  }
}

try {
  process.exitCode = await main();
} catch (error) {
  process.stderr.write(`${error instanceof Error ? error.message : String(error)}\n`);
  process.exitCode = error instanceof FotoplanError ? 1 : 2;
}

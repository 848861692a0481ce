import { version } from '../package.json';
import { COMMANDS, isCommand, OTHER_COMMANDS, SHELLS, type CommandName, type Shell } from './commandTable';
import { completionsFor, helpOn, helpOnAll, manualPage } from './help';
import { readArguments } from './readArguments';
import { UsageError } from './usageError';

/*
 * What only explains the program is answered at once; what works on photos is loaded when it is wanted.
 */

/** A program that reads what we write may stop reading: then there is nobody left to tell. 141 is what shells say of it. */
const NOBODY_READS = 141;
for (const stream of [process.stdout, process.stderr])
  stream.on('error', (error: NodeJS.ErrnoException) => {
    if (error.code === 'EPIPE') process.exit(NOBODY_READS);
  });
// what was kept of standard input is taken away by the handlers of "exit"
process.once('SIGINT', () => process.exit(130));
process.once('SIGTERM', () => process.exit(143));

const COMMAND_NAMES = [...Object.keys(COMMANDS), ...Object.keys(OTHER_COMMANDS)].join(', ');
const unknown = (name: string): UsageError =>
  new UsageError(`There is no command “${name}”. Use one of: ${COMMAND_NAMES}.`);

/** The answer to what asks about the program; null for what works on photos. */
function explained([name, ...rest]: readonly string[]): string | null {
  const [first] = rest;
  if (name === '--help' || name === '-h') return helpOnAll();
  if (name === '--version' || name === '-V') return `fotoplan ${version}\n`;
  if (name === 'man') return manualPage(version);
  if (name === 'completions') {
    if (!(SHELLS as readonly (string | undefined)[]).includes(first))
      throw new UsageError(`completions must be told the shell: one of ${SHELLS.join(', ')}.`);
    return completionsFor(first as Shell);
  }
  if (name !== 'help') return null;
  if (first === undefined) return helpOnAll();
  if (!isCommand(first)) throw unknown(first);
  return helpOn(first);
}

async function main(args: readonly string[]): Promise<number> {
  const [name, ...rest] = args;
  if (name === undefined) {
    process.stderr.write(helpOnAll());
    return 2;
  }
  const answer = explained(args) ?? aboutCommand(name, rest);
  if (answer !== null) {
    process.stdout.write(answer);
    return 0;
  }
  const given = readArguments(name as CommandName, rest);
  // the libraries are loaded only now: help is there at once
  const { runCommand } = await import('./runCommand');
  return runCommand(name as CommandName, given);
}

/** Help on a command where that is asked for, before files that may begin with a minus. */
function aboutCommand(name: string, rest: readonly string[]): string | null {
  if (!isCommand(name)) throw unknown(name);
  const end = rest.indexOf('--');
  const asked = end < 0 ? rest : rest.slice(0, end);
  if (asked.includes('--help') || asked.includes('-h')) return helpOn(name);
  return asked.includes('--version') || asked.includes('-V') ? `fotoplan ${version}\n` : null;
}

try {
  process.exitCode = await main(process.argv.slice(2));
} catch (error) {
  process.stderr.write(`${error instanceof Error ? error.message : String(error)}\n`);
  process.exitCode = error instanceof UsageError ? 2 : 1;
}

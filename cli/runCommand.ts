import path from 'node:path';
import { createPageCrew, type PageCrew } from '../platform/node/pageCrew';
import type { CommandName } from './commandTable';
import { readCount, type Given } from './readArguments';

/** Each brings libraries of its own along: binding those for PDF and for reading, which take half a second to load. */
const RUN: Readonly<Record<CommandName, () => Promise<(given: Given, crew: PageCrew) => Promise<number>>>> = {
  detect: async () => (await import('./detect')).detect,
  render: async () => (await import('./render')).render,
  bind: async () => (await import('./bind')).bind,
  inspect: async () => (await import('./inspect')).inspect,
};

/** Runs a command that works on photos, and gives its exit code. */
export async function runCommand(name: CommandName, given: Given): Promise<number> {
  const run = await RUN[name]();
  const crew = createPageCrew(path.join(import.meta.dirname, 'pageWorker.mjs'), readCount(given, 'jobs') ?? undefined);
  try {
    return await run(given, crew);
  } finally {
    await crew.close();
  }
}

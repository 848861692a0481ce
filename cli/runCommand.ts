import path from 'node:path';
import { createPageCrew } from '../platform/node/pageCrew';
import { bind } from './bind';
import type { CommandName } from './commandTable';
import { detect } from './detect';
import { inspect } from './inspect';
import { readCount, type Given } from './readArguments';
import { render } from './render';

const RUN = { detect, render, bind, inspect } as const;

/** Runs a command that works on photos, and gives its exit code. */
export async function runCommand(name: CommandName, given: Given): Promise<number> {
  const crew = createPageCrew(path.join(import.meta.dirname, 'pageWorker.mjs'), readCount(given, 'jobs') ?? undefined);
  try {
    return await RUN[name](given, crew);
  } finally {
    await crew.close();
  }
}

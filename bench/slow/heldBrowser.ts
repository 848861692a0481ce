import { execFileSync } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import { chromium, type Browser } from '@playwright/test';
import { BROWSER } from '../../playwright.config';

/** So long all processes of the browser run, and so long they stand still, in turn. */
const RUNS_MS = 10;
const STANDS_MS = 10;
/** How often new processes are looked for, and memory is added up. */
const LOOK_MS = 500;

/** A browser on one core of this machine, of which it has half. */
export interface HeldBrowser {
  readonly browser: Browser;
  /** The most memory that all its processes had together (proportional set size), bytes. */
  readonly peakBytes: () => number;
  /** Processor time that all its processes have taken so far, ms. */
  readonly processorMs: () => number;
  readonly close: () => Promise<void>;
}

/** @param args - beside those that every bench starts it with */
export async function launchHeld(args: readonly string[]): Promise<HeldBrowser> {
  const server = await onFirstCore(() => chromium.launchServer({ ...BROWSER, args: [...BROWSER.args, ...args] }));
  const root = server.process().pid!;
  let pids: readonly number[] = [];
  let peak = 0;
  const look = (): void => {
    const now = treeOf(root);
    for (const pid of now) if (!pids.includes(pid)) pinToFirstCore(pid);
    pids = now;
    peak = Math.max(
      peak,
      pids.reduce((sum, pid) => sum + memoryOf(pid), 0),
    );
  };
  const signal = (name: 'SIGSTOP' | 'SIGCONT'): void => pids.forEach((pid) => sendTo(pid, name));
  look();
  const looking = setInterval(look, LOOK_MS);
  let stands = false;
  let turn: NodeJS.Timeout;
  const take = (): void => {
    stands = !stands;
    signal(stands ? 'SIGSTOP' : 'SIGCONT');
    turn = setTimeout(take, stands ? STANDS_MS : RUNS_MS);
  };
  take();
  const browser = await chromium.connect(server.wsEndpoint());
  return {
    browser,
    peakBytes: () => peak,
    processorMs: () => pids.reduce((sum, pid) => sum + processorOf(pid), 0),
    close: async () => {
      clearInterval(looking);
      clearTimeout(turn);
      signal('SIGCONT');
      await browser.close();
      await server.close();
    },
  };
}

/** Does something while this process has the first core alone: what it starts then knows of no other. */
async function onFirstCore<T>(work: () => Promise<T>): Promise<T> {
  const cores = /\S+$/.exec(execFileSync('taskset', ['-cp', String(process.pid)], { encoding: 'utf8' }).trim())![0];
  const giveCores = (list: string): void =>
    void execFileSync('taskset', ['-acp', list, String(process.pid)], { stdio: 'ignore' });
  giveCores('0');
  try {
    return await work();
  } finally {
    giveCores(cores);
  }
}

/** A process and all that it started. */
function treeOf(root: number): number[] {
  const parents = new Map<number, number>();
  for (const name of readdirSync('/proc')) {
    if (!/^\d+$/.test(name)) continue;
    const parent = /^\d+ \(.*\) \S (\d+)/s.exec(textOf(`/proc/${name}/stat`))?.[1];
    if (parent !== undefined) parents.set(Number(name), Number(parent));
  }
  const tree = [root];
  for (const pid of tree) for (const [child, parent] of parents) if (parent === pid) tree.push(child);
  return tree;
}

/** A file of a process; nothing of one that has ended. */
function textOf(file: string): string {
  try {
    return readFileSync(file, 'utf8');
  } catch {
    return '';
  }
}
const memoryOf = (pid: number): number =>
  1024 * Number(/^Pss:\s+(\d+)/m.exec(textOf(`/proc/${pid}/smaps_rollup`))?.[1] ?? 0);

/** Linux counts in hundredths of a second. */
function processorOf(pid: number): number {
  const fields = textOf(`/proc/${pid}/stat`)
    .replace(/^.*\) /s, '')
    .split(' ');
  return 10 * (Number(fields[11] ?? 0) + Number(fields[12] ?? 0));
}

function pinToFirstCore(pid: number): void {
  try {
    execFileSync('taskset', ['-acp', '0', String(pid)], { stdio: 'ignore' });
  } catch {
    // it has ended meanwhile
  }
}
function sendTo(pid: number, name: NodeJS.Signals): void {
  try {
    process.kill(pid, name);
  } catch {
    // it has ended meanwhile
  }
}

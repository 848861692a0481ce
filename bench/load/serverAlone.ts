import { spawn, type ChildProcess } from 'node:child_process';
import { setTimeout as pause } from 'node:timers/promises';

const TOKEN = 'for the load test';

interface Health {
  readonly longestBlockMs: number;
  readonly memoryMb: number;
}

/** A server process of its own, and what it says of itself. */
export class ServerAlone {
  readonly url: string;
  mostMb = 0;
  /** The longest stop of the event loop in each second, ms. */
  readonly blocks: number[] = [];
  private readonly child: ChildProcess;
  private readonly watching: ReturnType<typeof setInterval>;

  private constructor(port: number, settings: Readonly<Record<string, string>>) {
    this.url = `http://127.0.0.1:${port}`;
    this.child = spawn(process.execPath, ['dist/server.mjs'], {
      env: {
        ...process.env,
        PORT: String(port),
        METRICS_TOKEN: TOKEN,
        LOG_LEVEL: 'warn',
        // as the container has it
        MALLOC_ARENA_MAX: '2',
        MALLOC_MMAP_THRESHOLD_: '131072',
        ...settings,
      },
      stdio: ['ignore', 'ignore', 'inherit'],
    });
    this.watching = setInterval(() => void this.look(), 1000);
  }

  static async start(port: number, settings: Readonly<Record<string, string>>): Promise<ServerAlone> {
    const server = new ServerAlone(port, settings);
    while (!(await server.look())) await pause(100);
    // what starting took is nobody's request
    server.blocks.length = 0;
    return server;
  }

  /** @returns whether it answered */
  private async look(): Promise<boolean> {
    const seen = await this.health();
    if (seen === null) return false;
    this.mostMb = Math.max(this.mostMb, seen.memoryMb);
    this.blocks.push(seen.longestBlockMs);
    return true;
  }
  /** Since it was last asked; nobody else asks from now on. */
  async longestBlockMs(): Promise<number> {
    clearInterval(this.watching);
    return (await this.health())?.longestBlockMs ?? NaN;
  }

  /** Since it was last asked. */
  private async health(): Promise<Health | null> {
    const text = await fetch(`${this.url}/metrics`, { headers: { authorization: `Bearer ${TOKEN}` } }).then(
      (response) => response.text(),
      () => null,
    );
    if (text === null) return null;
    const valueOf = (name: string): number => Number(new RegExp(`^${name} (\\S+)$`, 'm').exec(text)?.[1] ?? NaN);
    return {
      longestBlockMs: Math.round(1000 * valueOf('nodejs_eventloop_lag_max_seconds')),
      memoryMb: Math.round(valueOf('process_resident_memory_bytes') / 1e6),
    };
  }

  /** @returns its exit code */
  async stop(): Promise<number | null> {
    clearInterval(this.watching);
    const ended = new Promise<number | null>((resolve) => this.child.once('close', resolve));
    this.child.kill('SIGTERM');
    return ended;
  }
}

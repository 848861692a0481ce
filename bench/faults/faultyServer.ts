import { spawn, type ChildProcess } from 'node:child_process';
import { setTimeout as pause } from 'node:timers/promises';

/** A server process of its own that can be killed at any moment. */
export class FaultyServer {
  readonly url: string;
  private child: ChildProcess | null = null;
  constructor(
    private readonly port: number,
    readonly dataFolder: string,
    private readonly settings: Readonly<Record<string, string>> = {},
  ) {
    this.url = `http://localhost:${port}`;
  }

  isUp(): Promise<boolean> {
    return fetch(`${this.url}/livez`).then(
      ({ ok }) => ok,
      () => false,
    );
  }
  async start(): Promise<void> {
    if (await this.isUp()) throw new Error(`Another server answers on port ${this.port}. Stop it first.`);
    this.child = spawn(process.execPath, ['dist/server.mjs'], {
      env: {
        ...process.env,
        PORT: String(this.port),
        DATA_DIR: this.dataFolder,
        DEMO: '1',
        LOG_LEVEL: 'error',
        ...this.settings,
      },
      stdio: ['ignore', 'ignore', 'inherit'],
    });
    // a run that breaks off leaves nothing behind
    const { child } = this;
    const end = (): void => void child.kill('SIGKILL');
    process.once('exit', end);
    child.once('close', () => process.removeListener('exit', end));
    while (!(await this.isUp())) await pause(50);
  }
  /** @returns its exit code */
  async stop(signal: NodeJS.Signals = 'SIGTERM'): Promise<number | null> {
    const { child } = this;
    if (child === null) return null;
    const gone = new Promise<number | null>((resolve) => child.once('close', resolve));
    child.kill(signal);
    return gone;
  }
  async killAndStart(): Promise<void> {
    await this.stop('SIGKILL');
    await this.start();
  }
}

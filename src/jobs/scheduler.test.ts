import type { FromWorker, ToWorker } from './jobProtocol';
import { createScheduler } from './scheduler';

/** Workers that answer when the test says so. */
class HeldWorker {
  static made: HeldWorker[] = [];
  onmessage: ((event: { data: FromWorker }) => void) | null = null;
  onerror: (() => void) | null = null;
  onmessageerror: (() => void) | null = null;
  terminated = false;
  readonly heard: ToWorker[] = [];
  constructor() {
    HeldWorker.made.push(this);
  }
  postMessage(message: ToWorker): void {
    this.heard.push(message);
  }
  terminate(): void {
    this.terminated = true;
  }
  answer(): void {
    const { id } = this.heard.at(-1)!;
    this.onmessage?.({ data: { id, ok: true, result: new Blob() } });
  }
}
const request = (fileName: string) =>
  ({
    kind: 'picture',
    original: { key: fileName, fileName, pdfPage: null, blob: new Blob(), width: 1 },
    recipe: null as never,
    format: 'jpeg',
    longSidePx: 800,
  }) as const;
const nameOf = ({ request: { kind, ...rest } }: ToWorker): string =>
  kind === 'picture' ? (rest as ReturnType<typeof request>).original.fileName : kind;
const asked = (): string[] => HeldWorker.made.flatMap(({ heard }) => heard.map(nameOf));
const settle = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 5));

const start = (cores = 8) => {
  HeldWorker.made = [];
  return createScheduler(() => new HeldWorker() as unknown as Worker, cores);
};

describe('the scheduler', () => {
  it('never lets what is looked at stand behind long work', async () => {
    const scheduler = start();
    for (const name of ['long 1', 'long 2', 'long 3']) void scheduler.run(request(name), { priority: 'soon' });
    await settle();
    expect(asked().sort()).toEqual(['long 1', 'long 2']);
    void scheduler.run(request('seen'), { priority: 'visible' });
    await settle();
    expect(asked()).toContain('seen');
  });

  it('does one thing after another where there is one core, and what is looked at beside it', async () => {
    const scheduler = start(1);
    for (const name of ['long 1', 'long 2']) void scheduler.run(request(name), { priority: 'soon' });
    void scheduler.run(request('seen'), { priority: 'visible' });
    await settle();
    expect(asked().sort()).toEqual(['long 1', 'seen']);
  });

  it('takes the most urgent first', async () => {
    const scheduler = start();
    const done: string[] = [];
    for (const [name, priority] of [
      ['first', 'visible'],
      ['tile', 'visible'],
      ['slider', 'hand'],
    ] as const)
      void scheduler.run(request(name), { priority }).then(() => done.push(name));
    for (let n = 0; n < 3; n++) {
      await settle();
      HeldWorker.made[0]!.answer();
    }
    await settle();
    expect(done).toEqual(['first', 'slider', 'tile']);
  });

  it('drops what nobody waits for any more, at once', async () => {
    const scheduler = start();
    const stopper = new AbortController();
    void scheduler.run(request('first'), { priority: 'visible' });
    const gone = scheduler.run(request('scrolled away'), { priority: 'visible', signal: stopper.signal });
    void scheduler.run(request('last'), { priority: 'visible' });
    stopper.abort();
    await expect(gone).rejects.toMatchObject({ code: 'CANCELLED' });
    await settle();
    HeldWorker.made[0]!.answer();
    await settle();
    expect(asked()).toEqual(['first', 'last']);
  });

  it('rejects all that was under way or queued when it ends', async () => {
    const scheduler = start();
    const works = ['a', 'b', 'c', 'd'].map((name) => scheduler.run(request(name), { priority: 'soon' }));
    await settle();
    scheduler.stop();
    for (const work of works) await expect(work).rejects.toMatchObject({ name: 'FotoplanError' });
    expect(HeldWorker.made.every(({ terminated }) => terminated)).toBe(true);
  });
});

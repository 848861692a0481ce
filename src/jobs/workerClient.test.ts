import { createWorkerClient } from './workerClient';
import type { FromWorker, ToWorker } from './jobProtocol';

/** A worker that does what the test tells it. */
class ScriptedWorker {
  onmessage: ((event: { data: FromWorker }) => void) | null = null;
  onerror: (() => void) | null = null;
  onmessageerror: (() => void) | null = null;
  terminated = false;
  readonly heard: ToWorker[] = [];
  postMessage(message: ToWorker): void {
    this.heard.push(message);
  }
  terminate(): void {
    this.terminated = true;
  }
  say(message: FromWorker): void {
    this.onmessage?.({ data: message });
  }
}

const setUp = () => {
  const workers: ScriptedWorker[] = [];
  const client = createWorkerClient(() => {
    const worker = new ScriptedWorker();
    workers.push(worker);
    return worker as unknown as Worker;
  });
  return { workers, client };
};
const bind = { kind: 'assemble', options: { title: 'Set 4', paper: 'a4' }, pages: [] } as const;
const result = { pdf: new Blob(), sha256: 'x' };

describe('a worker’s client', () => {
  it('tells how much of the work is done, of the request it belongs to only', async () => {
    const { workers, client } = setUp();
    const shares: number[] = [];
    const asked = client.run(bind, { onShare: (share) => shares.push(share) });
    void client.run(bind, { onShare: () => shares.push(-1) });
    workers[0]!.say({ id: 1, share: 0.4 });
    workers[0]!.say({ id: 1, ok: true, result });
    workers[0]!.say({ id: 1, share: 0.9 }); // too late to matter
    await asked;
    expect(shares).toEqual([0.4]);
  });

  it('starts a worker before there is work, and ends one that has none', async () => {
    const { workers, client } = setUp();
    client.wake();
    client.wake();
    expect(workers).toHaveLength(1);
    const asked = client.run(bind);
    client.rest();
    expect(workers[0]!.terminated).toBe(false);
    workers[0]!.say({ id: 1, ok: true, result });
    await expect(asked).resolves.toEqual(result);
    client.rest();
    expect(workers[0]!.terminated).toBe(true);
    void client.run(bind);
    expect(workers).toHaveLength(2);
  });

  it('gives each answer to the request it belongs to, in whatever order they come', async () => {
    const { workers, client } = setUp();
    const first = client.run(bind);
    const second = client.run(bind);
    workers[0]!.say({ id: 2, ok: true, result: { ...result, sha256: 'second' } });
    workers[0]!.say({ id: 1, ok: true, result: { ...result, sha256: 'first' } });
    expect([(await first).sha256, (await second).sha256]).toEqual(['first', 'second']);
    expect(workers).toHaveLength(1);
  });

  it('rebuilds errors with their code and their sentence', async () => {
    const { workers, client } = setUp();
    const work = client.run(bind);
    workers[0]!.say({ id: 1, ok: false, error: { code: 'NO_PAGES', message: 'Add photos first.', facts: {} } });
    await expect(work).rejects.toMatchObject({ name: 'FotoplanError', code: 'NO_PAGES', message: 'Add photos first.' });
  });

  it('rejects all that was under way when the worker dies, and starts another', async () => {
    const { workers, client } = setUp();
    const lost = [client.run(bind), client.run(bind)];
    workers[0]!.onerror?.();
    for (const work of lost) await expect(work).rejects.toMatchObject({ code: 'WORKER_LOST' });
    expect(workers[0]!.terminated).toBe(true);
    const next = client.run(bind);
    expect(workers).toHaveLength(2);
    workers[1]!.say({ id: 3, ok: true, result });
    await expect(next).resolves.toEqual(result);
  });
});

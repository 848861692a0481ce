import { createHash } from 'node:crypto';
import { verdictOn } from './answers';
import { createApiClient } from './apiClient';

const ours = (status: number, body: unknown, headers: Record<string, string> = {}): Response =>
  new Response(JSON.stringify(body), { status, headers: { 'content-type': 'application/json', ...headers } });
const page = (status: number): Response =>
  new Response('<html>Log in to this network</html>', { status, headers: { 'content-type': 'text/html' } });
const onBroken = (init: RequestInit | undefined, then: (cause: Error) => void): void =>
  init!.signal!.addEventListener('abort', () => then(new Error('broken off')));
type Answer = Response | ((path: unknown, init?: RequestInit) => Promise<Response>);
const clientOf = (answer: Answer) =>
  createApiClient(
    (path, init) => (typeof answer === 'function' ? answer(path, init) : Promise.resolve(answer)),
    'k'.repeat(43),
    20,
  );
const verdictOf = async (answer: Answer) =>
  verdictOn(
    await clientOf(answer)
      .sendOperations([])
      .catch((error: unknown) => error),
  ).kind;

describe('what an answer means for what was sent', () => {
  it.each<[string, Answer, string]>([
    ['no answer', () => Promise.reject(new TypeError('failed')), 'lineDown'],
    [
      'a line on which nothing ever comes',
      (_path, init) => new Promise((_resolve, reject) => onBroken(init, reject)),
      'lineDown',
    ],
    [
      'an answer that never ends',
      (_path, init) =>
        Promise.resolve(
          new Response(new ReadableStream({ start: (body) => onBroken(init, (cause) => body.error(cause)) })),
        ),
      'lineDown',
    ],
    ['a server that is stopping', page(503), 'lineDown'],
    ['too many requests, from us', ours(429, { code: 'TOO_MANY_TRIES', message: 'Slowly.' }), 'slowDown'],
    ['too many requests, from a proxy', page(429), 'slowDown'],
    ['a proxy’s refusal', page(403), 'tryLater'],
    ['a proxy’s limit', page(413), 'tryLater'],
    ['a login page with status 200', page(200), 'tryLater'],
    ['JSON of somebody else', ours(400, { error: 'bad' }), 'tryLater'],
    ['JSON of somebody else with status 200', ours(200, { ok: true }), 'tryLater'],
    ['a fault of the server', ours(500, { code: 'INTERNAL', message: 'Broken.' }), 'tryLater'],
    ['a device that was unlinked', ours(401, { code: 'SCREEN_CUT_OFF', message: 'Unlinked.' }), 'unlinked'],
    ['a refusal', ours(400, { code: 'BODY_INVALID', message: 'No.' }), 'refused'],
    ['a full quota', ours(413, { code: 'QUOTA_FULL', message: 'Full.' }), 'refused'],
  ])('%s: %s', async (_name, answer, kind) => {
    expect(await verdictOf(answer)).toBe(kind);
  });

  it('says for how long it is to be waited, and which operation was refused', async () => {
    const slow = await clientOf(ours(429, { code: 'TOO_MANY_TRIES', message: 'Slowly.' }, { 'retry-after': '7' }))
      .sendOperations([])
      .catch((error: unknown) => error);
    expect(verdictOn(slow)).toEqual({ kind: 'slowDown', afterMs: 7000 });
    const refused = clientOf(
      ours(400, { code: 'BODY_INVALID', message: 'No.', facts: { operationId: 'op-7' } }),
    ).sendOperations([]);
    await expect(refused).rejects.toMatchObject({ facts: { operationId: 'op-7', status: 400 } });
  });
});

describe('an original', () => {
  const bytes = Buffer.from('a photo');
  const id = createHash('sha256').update(bytes).digest('hex');
  const answer = (body: Buffer, type: string): Response =>
    new Response(body as unknown as BodyInit, { headers: { 'content-type': type } });

  it('is taken only as what it is', async () => {
    expect(await (await clientOf(answer(bytes, 'image/jpeg')).fetchOriginal(id)).text()).toBe('a photo');
    await expect(clientOf(answer(Buffer.from('other'), 'image/jpeg')).fetchOriginal(id)).rejects.toMatchObject({
      code: 'ANSWER_UNREADABLE',
    });
    await expect(clientOf(page(200)).fetchOriginal(id)).rejects.toMatchObject({ code: 'ANSWER_UNREADABLE' });
  });

  it('counts as sent only when our server says so', async () => {
    await expect(clientOf(page(200)).sendOriginal(id, new Blob([bytes]))).rejects.toMatchObject({
      code: 'ANSWER_UNREADABLE',
    });
    await expect(clientOf(ours(201, { sha256: id })).sendOriginal(id, new Blob([bytes]))).resolves.toBeUndefined();
  });

  it('that is large goes in parts, those that are there not again', async () => {
    const sent: string[] = [];
    const client = createApiClient(
      ((path: string, init: RequestInit) => {
        sent.push(`${init.method ?? 'GET'} ${path.replace(id, '…')}`);
        if (path.endsWith('/parts')) return Promise.resolve(ours(200, { parts: [0] }));
        return Promise.resolve(
          path.endsWith('/done') ? ours(201, { sha256: id }) : new Response(null, { status: 204 }),
        );
      }) as typeof fetch,
      'k'.repeat(43),
    );
    await client.sendOriginal(id, new Blob([new Uint8Array(1_200_000)]));
    expect(sent).toEqual([
      'GET /api/originals/…/parts',
      'PUT /api/originals/…/parts/1',
      'PUT /api/originals/…/parts/2',
      'POST /api/originals/…/done',
    ]);
  });
});

import { createMetrics } from './metrics';
import { startTestServer, type Browser, type TestServer } from '../testServer';

let server: TestServer;
let monitor: Browser;
beforeAll(async () => {
  server = await startTestServer({ metrics: createMetrics(), config: { METRICS_TOKEN: 'a long token' } });
  monitor = server.browser();
});
afterAll(() => server.close());

it('says that it is alive, which version it is, and whether each part works', async () => {
  expect(await (await monitor('/livez')).json()).toEqual({
    alive: true,
    version: expect.stringMatching(/^\d+\.\d+\.\d+$/) as string,
  });
  const ready = await monitor('/readyz');
  expect([ready.status, await ready.json()]).toEqual([
    200,
    { ready: true, database: 'ok', bytes: 'ok', disk: 'ok', thread: 'ok' },
  ]);
});

it('gives its metrics to whoever has the token, and to nobody else', async () => {
  await monitor('/api/hand-ins/none-such');
  const given = await monitor('/metrics', { headers: { authorization: 'Bearer a long token' } });
  expect(await given.text()).toMatch(
    /fotoplan_requests_total\{method="GET",route="\/api\/hand-ins\/:handInId",status="404"\} 1/,
  );
  for (const headers of [{}, { authorization: 'Bearer another' }] as Record<string, string>[])
    expect((await monitor('/metrics', { headers })).status).toBe(404);
});

it.each(['/health', '/healthz', '/ready', '/readyz/all', '/metrics/x', '/status'])(
  '%s is no green light',
  async (path) => {
    expect((await monitor(path)).status).toBe(404);
  },
);

it('is alive and not ready where its data are damaged, or bytes are gone', async () => {
  const broken = await startTestServer();
  const asked = broken.browser();
  broken.db.exec("INSERT INTO blob (sha256, bytes, put_at_ms) VALUES ('gone', 5, 1)");
  const answer = await asked('/readyz');
  expect([answer.status, await answer.json()]).toEqual([
    503,
    { ready: false, database: 'ok', bytes: 'failing', disk: 'ok', thread: 'ok' },
  ]);
  expect((await asked('/livez')).status).toBe(200);
  await broken.close();
});

import { NOW_MS, startTestServer, type Browser, type TestServer } from '../testServer';
import { createSignInGuard } from './signInGuard';

const DAY_MS = 24 * 3600_000;
let server: TestServer;
let browser: Browser;
let nowMs = NOW_MS;
beforeEach(async () => {
  nowMs = NOW_MS;
  server = await startTestServer({ now: () => nowMs });
  browser = server.browser();
});
afterEach(() => server.close());

const DOORS = ['/office/api/session', '/locker/api/session', '/post/api/session'];
const signIn = (door: string, pin: string, number = 'SP-20417'): Promise<Response> =>
  browser(door, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ number, pin }),
  });
const byForm = (pin: string): Promise<Response> =>
  browser('/office/enter', {
    method: 'POST',
    redirect: 'manual',
    headers: { 'content-type': 'application/x-www-form-urlencoded' },
    body: new URLSearchParams({ number: 'SP-20417', pin }).toString(),
  });

describe('guessing PINs', () => {
  it('is slowed down at all four doors together, also for tries that come at once', async () => {
    const tries = await Promise.all(
      Array.from({ length: 30 }, (_, n) => (n % 4 === 3 ? byForm('0000') : signIn(DOORS[n % 4]!, '0000'))),
    );
    const statuses = tries.map(({ status }) => status);
    expect(statuses.filter((status) => status === 403)).toHaveLength(5);
    expect(statuses.filter((status) => status === 429)).toHaveLength(25);
    const waiting = await signIn(DOORS[0]!, '2041');
    expect([waiting.status, waiting.headers.get('retry-after')]).toEqual([429, '2']);
    nowMs += 2000;
    expect((await signIn(DOORS[0]!, '2041')).status).toBe(201);
    expect((await signIn(DOORS[1]!, '0000')).status).toBe(403);
  });

  it('waits twice as long each time, at most a quarter of an hour, whatever the address; other accounts do not wait', () => {
    const guard = createSignInGuard();
    const waits: number[] = [];
    for (let n = 0, ms = 0; n < 25; n++) {
      for (;;) {
        try {
          guard.begin('sp-1', `10.0.0.${n}`, ms);
          break;
        } catch (error) {
          waits.push((error as { facts: { retryAfterS: number } }).facts.retryAfterS);
          ms += 1000 * waits.at(-1)!;
        }
      }
    }
    expect(waits.slice(0, 5)).toEqual([2, 4, 8, 16, 32]);
    expect(waits.at(-1)).toBe(900);
    expect(() => guard.begin('SP-2', '10.0.1.1', 0)).not.toThrow();
  });

  it('lets a whole campus sign in from one address, and slows down one that tries many accounts', () => {
    const guard = createSignInGuard();
    for (let n = 0; n < 500; n++) guard.begin(`SP-${n}`, '10.0.0.1', 0)();
    let tried = 0;
    expect(() => {
      for (; tried < 500; tried++) guard.begin(`ST-${tried}`, '10.0.0.2', 0);
    }).toThrow(/Wait 2 seconds/);
    expect(tried).toBe(60);
  });
});

describe('a session', () => {
  const account = async (): Promise<unknown> =>
    ((await (await browser(DOORS[0]!)).json()) as { account: unknown }).account;

  it('ends after 30 days without use', async () => {
    await signIn(DOORS[0]!, '2041');
    nowMs += 29 * DAY_MS;
    expect(await account()).not.toBeNull();
    nowMs += 29 * DAY_MS;
    expect(await account()).not.toBeNull();
    nowMs += 31 * DAY_MS;
    expect(await account()).toBeNull();
  });

  it('ends after 180 days, however it is used', async () => {
    await signIn(DOORS[0]!, '2041');
    for (let days = 0; days < 170; days += 10) {
      nowMs += 10 * DAY_MS;
      expect(await account()).not.toBeNull();
    }
    nowMs += 11 * DAY_MS;
    expect(await account()).toBeNull();
  });
});

describe('without DEMO=1', () => {
  it('no PIN of the README works, nothing is there for newcomers, and the weather cannot be made', async () => {
    const real = await startTestServer({ config: { DEMO: false } });
    browser = real.browser();
    for (const [number, pin] of [
      ['SP-20417', '2041'],
      ['SP-20388', '2038'],
      ['ST-0112', '0112'],
    ] as const)
      expect((await signIn(DOORS[0]!, pin, number)).status).toBe(403);
    expect(
      (
        await browser('/office/api/weather', {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body: '{"weather":"down"}',
        })
      ).status,
    ).toBe(404);
    expect(await (await browser('/api/changes?since=0')).json()).toMatchObject({ handIns: [] });
    await real.close();
  });
});

import type { Random } from '../../demo/random';

/** What can happen to a request between a device and the server. */
const FAULTS = [
  'fine',
  'fine',
  'fine',
  'fine',
  'fine',
  'noAnswer',
  'lostAnswer',
  'proxyPage',
  'tooMany',
  'fault',
  'refused',
  'loginPage',
] as const;

export interface FaultyNetwork {
  readonly fetch: typeof fetch;
  /** Whether anything goes wrong. */
  stormy: boolean;
}

const page = (status: number): Response =>
  new Response('<html>The network says no.</html>', { status, headers: { 'content-type': 'text/html' } });
const ours = (status: number, code: string, headers: Record<string, string> = {}): Response =>
  new Response(JSON.stringify({ code, message: `made up: ${code}` }), {
    status,
    headers: { 'content-type': 'application/json', ...headers },
  });

/**
 * A line to the server on which things go wrong: no answer, an answer that is lost though the server did what was asked,
 * pages of proxies and login portals, refusals of all kinds.
 * @param address - of the server as it is now
 */
export function createFaultyNetwork(random: Random, address: () => string): FaultyNetwork {
  const network: FaultyNetwork = {
    stormy: true,
    fetch: async (path, init) => {
      const send = (): Promise<Response> => fetch(`${address()}${path as string}`, init);
      switch (network.stormy ? random.pick(FAULTS) : 'fine') {
        case 'fine':
          return send();
        case 'noAnswer':
          throw new TypeError('fetch failed');
        case 'lostAnswer':
          await (await send()).arrayBuffer();
          throw new TypeError('fetch failed');
        case 'proxyPage':
          return page(random.pick([403, 413, 429, 502, 504, 400]));
        case 'loginPage':
          return page(200);
        case 'tooMany':
          return ours(429, 'TOO_MANY_TRIES', { 'retry-after': '0' });
        case 'fault':
          return ours(500, 'INTERNAL');
        case 'refused':
          return ours(random.pick([400, 413]), random.pick(['BODY_INVALID', 'QUOTA_FULL', 'RECIPE_INVALID']));
      }
    },
  };
  return network;
}

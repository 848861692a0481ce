import { networkInterfaces } from 'node:os';
import { generate } from 'selfsigned';

/** This computer's address on its network: the first outer IPv4 one, or localhost where there is none. */
export function lanAddress(): string {
  const outer = Object.values(networkInterfaces())
    .flatMap((list) => list ?? [])
    .find(({ family, internal }) => family === 'IPv4' && !internal);
  return outer?.address ?? 'localhost';
}

const VALID_MS = 30 * 24 * 3600 * 1000;

/** A key and a certificate for this address, made anew at each start; browsers ask once whether to trust it. */
export async function selfSigned(address: string): Promise<{ key: string; cert: string }> {
  const names = [
    { type: 2 as const, value: 'localhost' },
    ...(address === 'localhost' ? [] : [{ type: 7 as const, ip: address }]),
  ];
  const now = Date.now();
  const { private: key, cert } = await generate([{ name: 'commonName', value: 'Fotoplan on this network' }], {
    keySize: 2048,
    notBeforeDate: new Date(now - 60_000),
    notAfterDate: new Date(now + VALID_MS),
    extensions: [{ name: 'subjectAltName', altNames: names }],
  });
  return { key, cert };
}

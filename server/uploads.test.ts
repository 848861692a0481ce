import { UPLOAD_PART_BYTES } from '../contract/uploadParts';
import { samplePhoto, sha256, startTestServer, type Browser, type TestServer } from './testServer';

let server: TestServer;
let mira: Browser;
beforeEach(async () => {
  server = await startTestServer({ config: { QUOTA_MB: 4 } });
  mira = server.browser();
  await mira('/api/changes?since=0');
});
afterEach(() => server.close());

const partsOf = (bytes: Buffer): Buffer[] =>
  Array.from({ length: Math.ceil(bytes.length / UPLOAD_PART_BYTES) }, (_, i) =>
    bytes.subarray(i * UPLOAD_PART_BYTES, (i + 1) * UPLOAD_PART_BYTES),
  );
const sendPart = (browser: Browser, id: string, seq: number, part: Buffer): Promise<Response> =>
  browser(`/api/originals/${id}/parts/${seq}`, { method: 'PUT', body: new Blob([part as Uint8Array<ArrayBuffer>]) });
const finish = (browser: Browser, id: string): Promise<Response> =>
  browser(`/api/originals/${id}/done`, { method: 'POST' });
const codeOf = async (response: Response): Promise<string> => ((await response.json()) as { code: string }).code;

describe('an original in parts', () => {
  it('goes on where it broke off, in any order, and comes back whole', async () => {
    const photo = Buffer.concat([await samplePhoto(30), Buffer.alloc(1_300_000, 5)]);
    const id = sha256(photo);
    const parts = partsOf(photo);
    expect(parts).toHaveLength(3);
    await sendPart(mira, id, 2, parts[2]!);
    await sendPart(mira, id, 0, parts[0]!);
    expect(await (await mira(`/api/originals/${id}/parts`)).json()).toEqual({ parts: [0, 2] });
    await sendPart(mira, id, 1, parts[1]!);
    expect((await finish(mira, id)).status).toBe(201);
    expect(Buffer.from(await (await mira(`/api/originals/${id}`)).arrayBuffer()).equals(photo)).toBe(true);
    expect(await (await mira(`/api/originals/${id}/parts`)).json()).toEqual({ parts: [] });
    // an answer that was lost is asked for again
    expect((await finish(mira, id)).status).toBe(200);
  });

  it('that is not what it says is refused whole; other owners’ parts do not mix in', async () => {
    const photo = Buffer.concat([await samplePhoto(31), Buffer.alloc(600_000, 5)]);
    const id = sha256(photo);
    const parts = partsOf(photo);
    const other = server.browser();
    await other('/api/changes?since=0');
    await sendPart(other, id, 0, Buffer.alloc(UPLOAD_PART_BYTES, 1));
    await sendPart(mira, id, 0, parts[0]!);
    await sendPart(mira, id, 1, Buffer.from('something else'));
    expect(await codeOf(await finish(mira, id))).toBe('HASH_MISMATCH');
    for (const [seq, part] of parts.entries()) await sendPart(mira, id, seq, part);
    expect((await finish(mira, id)).status).toBe(201);
  });

  it('may not be larger than a photo, nor fill more than its owner’s share', async () => {
    const photo = await samplePhoto(32);
    const id = sha256(photo);
    expect(await codeOf(await sendPart(mira, id, 0, Buffer.alloc(UPLOAD_PART_BYTES + 1)))).toBe('PHOTO_TOO_LARGE');
    expect(await codeOf(await sendPart(mira, id, 900, photo))).toBe('PHOTO_TOO_LARGE');
    expect(await codeOf(await sendPart(mira, 'no-hash', 0, photo))).toBe('BODY_INVALID');
    const large = Buffer.concat([photo, Buffer.alloc(4_000_000)]);
    const statuses: number[] = [];
    for (const [seq, part] of partsOf(large).entries())
      statuses.push((await sendPart(mira, sha256(large), seq, part)).status);
    expect(statuses.slice(0, 7)).toEqual(Array(7).fill(204));
    expect(statuses.at(-1)).toBe(413);
  });
});

import { createHash, randomBytes } from 'node:crypto';
import { PDFDocument } from '@cantoo/pdf-lib';
import sharp from 'sharp';
import { wholePhotoRecipe } from '../../core/work/recipe/plainRecipe';
import { Screen } from './screen';
import type { ServerAlone } from './serverAlone';

const PAGES = 1000;
const AT_ONCE = 200;
const sha256 = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

export interface Cost {
  readonly what: string;
  readonly status: number;
  readonly ms: number;
  /** The longest stop of the event loop meanwhile. */
  readonly blockMs: number;
}

/**
 * The heaviest of each kind of request, one at a time on an idle server: a hand-in of a thousand pages, the largest photo, file and
 * mail, and what is made to be slow to look into.
 * @returns each with what it cost
 */
export async function singleRequests(server: ServerAlone): Promise<readonly Cost[]> {
  const costs: Cost[] = [];
  const screen = new Screen(server.url, { small: [], large: [], problems: [] });
  const ask = async (what: string, at: string, init: RequestInit = {}): Promise<Response> => {
    await server.longestBlockMs();
    const began = performance.now();
    const response = await screen.ask(at, init);
    await response.clone().arrayBuffer();
    const ms = Math.round(performance.now() - began);
    costs.push({ what, status: response.status, ms, blockMs: await server.longestBlockMs() });
    return response;
  };
  const post = (body: unknown): RequestInit => ({
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
  });
  const put = (bytes: Uint8Array): RequestInit => ({ method: 'PUT', body: bytes as never });
  const form = (fields: Readonly<Record<string, string>>, file: Uint8Array): RequestInit => {
    const body = new FormData();
    for (const [name, value] of Object.entries(fields)) body.set(name, value);
    body.set('file', new Blob([file as Uint8Array<ArrayBuffer>]), 'plate.pdf');
    return { method: 'POST', body };
  };

  const start = await sharp({ create: { width: 300, height: 424, channels: 3, background: '#dcd' } })
    .jpeg()
    .toBuffer();
  const photo = Buffer.concat([start, randomBytes(39_000_000)]);
  await ask('a photo of 39 MB', `/api/originals/${sha256(photo)}`, put(photo));
  await ask('the same, fetched', `/api/originals/${sha256(photo)}`);
  const stamp = (n: number) => ({ id: `operation-${n}`, handInId: 'hand-in-large', atMs: n });
  await ask(
    'a new hand-in',
    '/api/operations',
    post({ operations: [{ ...stamp(0), kind: 'createHandIn', title: 'Set 4', paper: 'auto' }] }),
  );
  const recipe = wholePhotoRecipe(300, 424, 'daylight');
  const added = { kind: 'addPage', originalId: sha256(photo), fileName: 'a.jpg', width: 300, height: 424, recipe };
  const pages = Array.from({ length: PAGES }, (_, n) => ({ ...stamp(n + 1), ...added, pageId: `page-of-many-${n}` }));
  for (let n = 0; n < PAGES; n += AT_ONCE)
    await ask(`pages ${n + 1} to ${n + AT_ONCE}`, '/api/operations', post({ operations: pages.slice(n, n + AT_ONCE) }));
  const turned = { kind: 'setRecipe', recipe: { ...recipe, quarterTurns: 1 }, fields: ['quarterTurns'] };
  const turns = pages.slice(0, AT_ONCE).map(({ pageId }, n) => ({ ...stamp(PAGES + n + 1), ...turned, pageId }));
  await ask('200 turned of 1,000', '/api/operations', post({ operations: turns }));
  await ask('the hand-in of 1,000 pages', '/api/hand-ins/hand-in-large');
  await ask('all changes', '/api/changes?since=0');
  const deep = `${'{"a":'.repeat(300_000)}1${'}'.repeat(300_000)}`;
  await ask('2 MB of braces', '/api/operations', { ...post({}), body: deep });

  const maker = await PDFDocument.create();
  for (let n = 0; n < 1500; n++) maker.addPage();
  const many = await maker.save();
  const large = Buffer.concat([many, randomBytes(40_000_000)]);
  const query = `name=a.pdf&pages=1500&sha256=${sha256(large)}`;
  await ask('a bound file of 40 MB', `/api/hand-ins/hand-in-large/bound-files/file-large?${query}`, put(large));
  await ask('the same, fetched', '/api/bound-files/file-large');
  const signIn = post({ number: 'LD-0', pin: 'load' });
  for (const service of ['office', 'locker', 'post'])
    await ask(`signing in at the ${service}`, `/${service}/api/session`, signIn);
  const submission = { key: 'single-key', offset: '0', sha256: sha256(many), fileName: 'plate.pdf', fields: '{}' };
  await ask('a PDF of 1,500 pages, handed in', '/office/api/assignments/load-set/submissions', form(submission, many));
  const inLocker = { path: '', name: 'plate.pdf', onExisting: 'replace' };
  const kept = await ask('40 MB into the locker', '/locker/api/files', form(inLocker, large));
  const { id } = (await kept.json()) as { id?: string };
  await ask('the same, fetched', `/locker/api/files/${id}`);
  const mail = { key: 'single-mail', name: 'plate.pdf', to: 'office@skerrypoint.example', subject: 'Plate' };
  await ask('a mail of 9 MB', '/post/api/messages', form(mail, large.subarray(0, 9_000_000)));
  for (const [what, hex] of HOSTILE) {
    const bytes = Buffer.from(hex, 'hex');
    await ask(what, `/api/originals/${sha256(bytes)}`, put(bytes));
  }
  return costs;
}

/** Files with sizes of 0 in them, over which a careless reader goes round for good. */
const HOSTILE = [
  ['a box of no size (ICNS)', '69636e730000001869633130000000000000000000000000'],
  ['a box of no size (JXL)', '0000000c4a584c200d0a870a000000006a786c63000000006a786c63'],
  ['a box of no size (HEIC)', '0000001866747970686569630000000068656963000000000000000000000000'],
] as const;

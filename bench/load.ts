import { spawn, type ChildProcess } from 'node:child_process';
import { createHash, randomFillSync } from 'node:crypto';
import { mkdtempSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { PDFDocument } from '@cantoo/pdf-lib';
import sharp from 'sharp';
import { UPLOAD_PART_BYTES } from '../contract/uploadParts';
import { wholePhotoRecipe } from '../core/recipe/plainRecipe';
import { openCollege } from '../server/college/openCollege';
import { createOfficeRepository } from '../server/office/officeRepository';

/*
 * The night before: so many students at once against one server on loopback, each with a hand-in of five photos of 3 MB in
 * parts, recipes, a bound file and a submission. Bounded: each does its work once, and the server ends with the script.
 *   node dist/load.mjs [STUDENTS]
 */

const STUDENTS = Number(process.argv[2] ?? 200);
const PHOTOS = 5;
const PHOTO_BYTES = 3_000_000;
const PORT = 4490;
const URL = `http://127.0.0.1:${PORT}`;
const TOKEN = 'for the load test';
/** What must hold, or the script ends with 1. */
const MOST = { smallP95Ms: 250, memoryMb: 450 };
/** All are there within this. */
const ARRIVE_MS = 10_000;

const folder = mkdtempSync(path.join(tmpdir(), 'fotoplan-load-'));
const small: number[] = [];
const large: number[] = [];
const problems: string[] = [];

class Student {
  private readonly cookies = new Map<string, string>();
  readonly originals: string[] = [];
  constructor(readonly n: number) {}

  async send(at: string, init: RequestInit = {}, times: number[] = small): Promise<Response> {
    const began = performance.now();
    const response = await fetch(`${URL}${at}`, {
      ...init,
      headers: {
        ...(init.headers as Record<string, string>),
        cookie: [...this.cookies].map(([name, value]) => `${name}=${value}`).join('; '),
      },
    });
    for (const set of response.headers.getSetCookie()) {
      const [, name, value] = /^([^=]+)=([^;]*)/.exec(set)!;
      this.cookies.set(name!, value!);
    }
    times.push(performance.now() - began);
    if (response.status >= 400)
      problems.push(
        `${init.method ?? 'GET'} ${at.replaceAll(/[0-9a-f]{64}/g, '…')}: ${response.status} ${await response.clone().text()}`,
      );
    return response;
  }
  json = (at: string, body: unknown): Promise<Response> =>
    this.send(at, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });

  async work(photoStart: Buffer, pdf: Buffer): Promise<void> {
    const id = `hand-in-of-${this.n}`;
    const stamp = (what: string) => ({ id: `${what}-${this.n}`.padEnd(10, '-'), handInId: id, atMs: Date.now() });
    await (await this.send('/api/changes?since=0')).json();
    await this.json('/api/operations', {
      operations: [{ ...stamp('create'), kind: 'createHandIn', title: 'Set 4', paper: 'auto' }],
    });
    for (let p = 0; p < PHOTOS; p++) {
      const photo = Buffer.alloc(PHOTO_BYTES);
      photoStart.copy(photo);
      randomFillSync(photo, photoStart.length);
      const sha256 = createHash('sha256').update(photo).digest('hex');
      await (await this.send(`/api/originals/${sha256}/parts`)).json();
      for (let seq = 0; seq * UPLOAD_PART_BYTES < photo.length; seq++) {
        await this.send(
          `/api/originals/${sha256}/parts/${seq}`,
          { method: 'PUT', body: photo.subarray(seq * UPLOAD_PART_BYTES, (seq + 1) * UPLOAD_PART_BYTES) as never },
          large,
        );
      }
      await this.send(`/api/originals/${sha256}/done`, { method: 'POST' }, large);
      this.originals.push(sha256);
      const pageId = `page-${p}-of-${this.n}`;
      const recipe = wholePhotoRecipe(300, 424, 'daylight');
      await this.json('/api/operations', {
        operations: [
          {
            ...stamp(`add-${p}`),
            kind: 'addPage',
            pageId,
            originalId: sha256,
            fileName: `${p}.jpg`,
            width: 300,
            height: 424,
            recipe,
          },
        ],
      });
      await this.json('/api/operations', {
        operations: [
          {
            ...stamp(`set-${p}`),
            kind: 'setRecipe',
            pageId,
            recipe: { ...recipe, quarterTurns: 1 },
            fields: ['quarterTurns'],
          },
        ],
      });
    }
    const file = Buffer.concat([pdf, Buffer.from(`\n%${this.n}\n`)]);
    const sha256 = createHash('sha256').update(file).digest('hex');
    await this.send(
      `/api/hand-ins/${id}/bound-files/file-of-${this.n}?name=a.pdf&pages=5&sha256=${sha256}`,
      { method: 'PUT', body: file as never },
      large,
    );
    await this.json('/office/api/session', { number: `LD-${this.n}`, pin: 'load' });
    const form = new FormData();
    for (const [name, value] of Object.entries({
      key: `load-key-${this.n}`,
      offset: '0',
      sha256,
      fileName: 'plate.pdf',
      comment: '',
      fields: '{}',
    }))
      form.set(name, value);
    form.set('file', new Blob([file]), 'plate.pdf');
    const ticket = (await (
      await this.send('/office/api/assignments/load-set/submissions', { method: 'POST', body: form }, large)
    ).json()) as { submissionId: string; state: string };
    let { state } = ticket;
    while (state === 'queued') {
      await pause(300);
      state = ((await (await this.send(`/office/api/tickets/${ticket.submissionId}`)).json()) as { state: string })
        .state;
    }
    if (state !== 'accepted') problems.push(`student ${this.n} was ${state}`);
  }

  /** @returns how many originals came back as they were sent */
  async check(): Promise<number> {
    let whole = 0;
    for (const sha256 of this.originals) {
      const bytes = Buffer.from(await (await this.send(`/api/originals/${sha256}`, {}, [])).arrayBuffer());
      if (createHash('sha256').update(bytes).digest('hex') === sha256) whole++;
    }
    return whole;
  }
}

function start(): ChildProcess {
  return spawn(process.execPath, ['dist/server.mjs'], {
    env: {
      ...process.env,
      PORT: String(PORT),
      DATA_DIR: folder,
      METRICS_TOKEN: TOKEN,
      LOG_LEVEL: 'warn',
      MALLOC_ARENA_MAX: '2',
    },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
}
interface Health {
  readonly longestBlockMs: number;
  readonly memoryMb: number;
}
/** Since it was last asked. */
const health = async (): Promise<Health | null> => {
  const text = await fetch(`${URL}/metrics`, { headers: { authorization: `Bearer ${TOKEN}` } }).then(
    (response) => response.text(),
    () => null,
  );
  if (text === null) return null;
  const valueOf = (name: string): number => Number(new RegExp(`^${name} (\\S+)$`, 'm').exec(text)?.[1] ?? NaN);
  return {
    longestBlockMs: Math.round(1000 * valueOf('nodejs_eventloop_lag_max_seconds')),
    memoryMb: Math.round(valueOf('process_resident_memory_bytes') / 1e6),
  };
};
const msAt = (times: readonly number[], share: number): number =>
  Math.round([...times].sort((a, b) => a - b)[Math.floor(share * (times.length - 1))] ?? 0);
const at = (times: readonly number[], share: number): string => `${msAt(times, share)} ms`;

const college = openCollege(folder);
const accounts = createOfficeRepository(college.office);
for (let n = 0; n < STUDENTS; n++)
  accounts.addAccount(`load-${n}`, { family: `Student${n}`, first: 'Load', number: `LD-${n}` }, 'load', false);
accounts.saveAssignment('load-set', 1, Date.now() + 3_600_000, {
  courseCode: 'BOT',
  course: 'Seashore Botany',
  title: 'Shore log',
  asks: '',
  leastPages: 1,
  mostPages: 9,
  maxBytes: 5_000_000,
  name: null,
  graceMs: 0,
  attempts: 3,
  fields: [],
  marking: '',
});
for (const each of Object.values(college)) each.close();
const server = start();
while ((await health()) === null) await pause(100);
const photoStart = await sharp({ create: { width: 300, height: 424, channels: 3, background: '#dcd' } })
  .jpeg()
  .toBuffer();
const maker = await PDFDocument.create();
for (let i = 0; i < 3; i++) maker.addPage();
const pdf = Buffer.from(await maker.save());

let mostMb = 0;
const blocks: number[] = [];
const watching = setInterval(
  () =>
    void health().then((seen) => {
      if (seen === null) return;
      mostMb = Math.max(mostMb, seen.memoryMb);
      blocks.push(seen.longestBlockMs);
    }),
  1000,
);
const began = performance.now();
const students = Array.from({ length: STUDENTS }, (_, n) => new Student(n));
await Promise.all(
  students.map(async (student) => {
    await pause((student.n / STUDENTS) * ARRIVE_MS);
    await student
      .work(photoStart, pdf)
      .catch((error: unknown) => problems.push(`student ${student.n}: ${String(error)}`));
  }),
);
const seconds = (performance.now() - began) / 1000;
clearInterval(watching);
let whole = 0;
for (let k = 0; k < STUDENTS; k += 8)
  whole += (await Promise.all(students.slice(k, k + 8).map((student) => student.check()))).reduce((a, b) => a + b, 0);
console.log(
  `${STUDENTS} students, ${STUDENTS * PHOTOS} photos of ${PHOTO_BYTES / 1e6} MB, all done in ${seconds.toFixed(0)} s (${((STUDENTS * PHOTOS * PHOTO_BYTES) / 1e6 / seconds).toFixed(0)} MB a second)`,
);
console.log(`originals back as they were sent: ${whole} of ${STUDENTS * PHOTOS}; problems: ${problems.length}`);
for (const problem of problems.slice(0, 10)) console.log(`  ${problem}`);
console.log(
  `small requests: ${small.length}, median ${at(small, 0.5)}, p95 ${at(small, 0.95)}, longest ${at(small, 1)}`,
);
console.log(`parts and files: ${large.length}, median ${at(large, 0.5)}, p95 ${at(large, 0.95)}`);
console.log(
  `event loop: longest block ${Math.max(...blocks)} ms, seconds with one over 100 ms ${blocks.filter((ms) => ms > 100).length} of ${blocks.length}; memory at most ${mostMb} MB; data ${(statSync(path.join(folder, 'bytes.sqlite')).size / 1e9).toFixed(2)} GB`,
);
server.kill('SIGTERM');
const code = await new Promise((resolve) => server.once('close', resolve));
rmSync(folder, { recursive: true });
const failures = [
  ...(problems.length > 0 ? [`${problems.length} requests failed`] : []),
  ...(whole < STUDENTS * PHOTOS ? [`${STUDENTS * PHOTOS - whole} originals are not as they were sent`] : []),
  ...(msAt(small, 0.95) > MOST.smallP95Ms ? [`p95 of small requests over ${MOST.smallP95Ms} ms`] : []),
  ...(mostMb > MOST.memoryMb ? [`memory over ${MOST.memoryMb} MB`] : []),
  ...(code === 0 ? [] : [`the server ended with ${String(code)}`]),
];
for (const failure of failures) console.log(`FAILED: ${failure}`);
process.exitCode = failures.length === 0 ? 0 : 1;

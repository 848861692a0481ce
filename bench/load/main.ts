import { execFile } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { promisify } from 'node:util';
import { PDFDocument } from '@cantoo/pdf-lib';
import S3rver from 's3rver';
import sharp from 'sharp';
import { openCollege } from '../../server/college/openCollege';
import { createOfficeRepository } from '../../server/office/officeRepository';
import type { Measured } from './screen';
import { ServerAlone } from './serverAlone';
import { singleRequests } from './singleRequests';
import { startStalledPhones } from './stalledPhones';
import { PHOTO_BYTES, PHOTOS, Student, type Materials } from './student';

/*
 * The night before: so many students at once against one server on loopback with its default limits, all behind one address.
 * Each listens for changes and works through a hand-in of five photos of 3 MB in parts, recipes, a bound file of real size and a
 * submission. Meanwhile twenty phones stall in mid-upload, and a backup is made. Bounded: each does its work once, and the server
 * ends with the script.
 *   node dist/load.mjs [STUDENTS] [--bucket]      with --bucket the bytes lie in an S3-compatible store (a local one)
 *   node dist/load.mjs --alone                    the heaviest requests one at a time, and what each costs the event loop
 */

const STUDENTS = Number(process.argv.slice(2).find((each) => /^\d+$/.test(each)) ?? 200);
const IN_BUCKET = process.argv.includes('--bucket');
const PORT = 4490;
/** What must hold, or the script ends with 1. */
const MOST = { smallP95Ms: 250, memoryMb: 450, blockMs: 100 };
/** All are there within this. */
const ARRIVE_MS = 10_000;
const STALLED = 20;
/** What five pages of print and pencil come to. */
const PDF_BYTES = 1_200_000;

const folder = mkdtempSync(path.join(tmpdir(), 'fotoplan-load-'));
const data = path.join(folder, 'data');
const measured: Measured = { small: [], large: [], problems: [] };
const msAt = (times: readonly number[], share: number): number =>
  Math.round([...times].sort((a, b) => a - b)[Math.floor(share * (times.length - 1))] ?? 0);

/** An assignment at the office, and an account for each student. */
function openOffice(): void {
  const college = openCollege(data);
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
}

async function makeMaterials(): Promise<Materials> {
  const photoStart = await sharp({ create: { width: 300, height: 424, channels: 3, background: '#dcd' } })
    .jpeg()
    .toBuffer();
  const maker = await PDFDocument.create();
  for (let i = 0; i < PHOTOS; i++) maker.addPage();
  await maker.attach(randomBytes(PDF_BYTES), 'pages.bin');
  return { photoStart, pdf: Buffer.from(await maker.save()) };
}

async function startBucket(): Promise<{ settings: Record<string, string>; close(): Promise<void> }> {
  if (!IN_BUCKET) return { settings: {}, close: () => Promise.resolve() };
  const store = new S3rver({
    port: PORT + 5,
    address: '127.0.0.1',
    silent: true,
    directory: path.join(folder, 'bucket'),
    configureBuckets: [{ name: 'photos' }],
  });
  await store.run();
  const settings = {
    BLOB_BUCKET: 'photos',
    S3_ENDPOINT: `http://127.0.0.1:${PORT + 5}`,
    S3_ACCESS_KEY_ID: 'S3RVER',
    S3_SECRET_ACCESS_KEY: 'S3RVER',
  };
  return { settings, close: () => store.close() };
}

const began = performance.now();
const seconds = (): number => (performance.now() - began) / 1000;

/** Copies everything while all are at work, and looks whether the copy is whole. */
async function backUp(settings: Readonly<Record<string, string>>): Promise<string> {
  const copy = path.join(folder, 'copy');
  const keep = (command: string, into: string) =>
    promisify(execFile)(process.execPath, ['dist/keeping.mjs', command, copy], {
      env: { ...process.env, ...settings, DATA_DIR: into },
    });
  const from = seconds();
  await keep('backup', data);
  return `backup after ${from.toFixed(0)} s took ${(seconds() - from).toFixed(0)} s`;
}

/** What the machine under this one kept from it, in ticks of all cores; 0 where the system does not tell. */
function withheld(): { readonly stolen: number; readonly all: number } {
  try {
    const ticks = /^cpu +(.*)$/m.exec(readFileSync('/proc/stat', 'utf8'))![1]!.split(' ').map(Number);
    return { stolen: ticks[7] ?? 0, all: ticks.slice(0, 8).reduce((a, b) => a + b, 0) };
  } catch {
    return { stolen: 0, all: 1 };
  }
}

/** The heaviest requests, one at a time. */
async function alone(): Promise<readonly string[]> {
  openOffice();
  const server = await ServerAlone.start(PORT, { DATA_DIR: data });
  const costs = await singleRequests(server);
  const code = await server.stop();
  console.log('request                          answer      ms   event loop stopped for');
  for (const { what, status, ms, blockMs } of costs)
    console.log(`${what.padEnd(36)}${status}${String(ms).padStart(8)}${String(blockMs).padStart(8)} ms`);
  return [
    ...costs.filter(({ blockMs }) => blockMs > MOST.blockMs).map(({ what }) => `${what}: over ${MOST.blockMs} ms`),
    ...costs.filter(({ status }) => status >= 500).map(({ what, status }) => `${what}: ${status}`),
    ...(code === 0 ? [] : [`the server ended with ${String(code)}`]),
  ];
}

/** All students at once. */
async function together(): Promise<readonly string[]> {
  openOffice();
  const bucket = await startBucket();
  const materials = await makeMaterials();
  const server = await ServerAlone.start(PORT, { DATA_DIR: data, TRUST_PROXY: '1', ...bucket.settings });
  const before = withheld();
  const endStalled = startStalledPhones(PORT, STALLED);
  const students = Array.from({ length: STUDENTS }, (_, n) => new Student(n, server.url, measured));
  const backingUp = pause(2 * ARRIVE_MS)
    .then(() => backUp(bucket.settings))
    .catch((error: unknown) => {
      measured.problems.push(`backup: ${String(error)}`);
      return 'no backup';
    });
  await Promise.all(
    students.map(async (student) => {
      await pause((student.n / STUDENTS) * ARRIVE_MS);
      await student
        .work(materials)
        .catch((error: unknown) => measured.problems.push(`student ${student.n}: ${String(error)}`));
    }),
  );
  const worked = seconds();
  const after = withheld();
  const backup = await backingUp;
  const hungUpOn = endStalled();
  const blocks = [...server.blocks];
  const longestBlockMs = Math.max(...blocks);
  const { mostMb } = server;
  let whole = 0;
  for (let k = 0; k < STUDENTS; k += 8)
    whole += (await Promise.all(students.slice(k, k + 8).map((student) => student.check()))).reduce((a, b) => a + b, 0);
  const code = await server.stop();
  await bucket.close();

  const { small, large, problems } = measured;
  const sentMb = (STUDENTS * (PHOTOS * PHOTO_BYTES + 2 * materials.pdf.length)) / 1e6;
  const deaf = students.filter(({ heard }) => heard === 0).length;
  const at = (times: readonly number[], share: number): string => `${msAt(times, share)} ms`;
  console.log(`${STUDENTS} students, ${STUDENTS * PHOTOS} photos of ${PHOTO_BYTES / 1e6} MB${IN_BUCKET ? ' into the bucket' : ''}, all done in ${worked.toFixed(0)} s (${(sentMb / worked).toFixed(0)} MB a second)
originals back as they were sent: ${whole} of ${STUDENTS * PHOTOS}; problems: ${problems.length}
small requests: ${small.length}, median ${at(small, 0.5)}, p95 ${at(small, 0.95)}, longest ${at(small, 1)}
parts and files: ${large.length}, median ${at(large, 0.5)}, p95 ${at(large, 0.95)}
event streams: ${STUDENTS}, ${students.reduce((sum, { heard }) => sum + heard, 0)} changes heard; stalled phones hung up on: ${hungUpOn} of ${STALLED}; ${backup}
event loop: longest block ${longestBlockMs} ms, seconds with one over ${MOST.blockMs} ms ${blocks.filter((ms) => ms > MOST.blockMs).length} of ${blocks.length}; memory at most ${mostMb} MB
${Math.round((100 * (after.stolen - before.stolen)) / (after.all - before.all))} % of the cores were withheld by the machine under this one`);
  for (const problem of problems.slice(0, 10)) console.log(`  ${problem}`);
  return [
    ...(problems.length > 0 ? [`${problems.length} requests failed`] : []),
    ...(whole < STUDENTS * PHOTOS ? [`${STUDENTS * PHOTOS - whole} originals are not as they were sent`] : []),
    ...(msAt(small, 0.95) > MOST.smallP95Ms ? [`p95 of small requests over ${MOST.smallP95Ms} ms`] : []),
    ...(mostMb > MOST.memoryMb ? [`memory over ${MOST.memoryMb} MB`] : []),
    ...(deaf > 0 ? [`${deaf} event streams told nothing`] : []),
    ...(hungUpOn < STALLED ? [`${STALLED - hungUpOn} stalled phones kept their place`] : []),
    ...(code === 0 ? [] : [`the server ended with ${String(code)}`]),
  ];
}

const failures = await (process.argv.includes('--alone') ? alone() : together());
rmSync(folder, { recursive: true });
for (const failure of failures) console.log(`FAILED: ${failure}`);
process.exitCode = failures.length === 0 ? 0 : 1;

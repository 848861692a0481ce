import { PDFDocument } from '@cantoo/pdf-lib';
import type { ReceiptsView, TicketView } from '../../contract/officeViews';
import type { Weather } from '../../contract/officeBodies';
import { NOW_MS, sha256, startTestServer, type Browser, type TestServer } from '../testServer';

let server: TestServer;
let mira: Browser;
let nowMs = NOW_MS;
let pdf: Buffer;
beforeEach(async () => {
  nowMs = NOW_MS;
  server = await startTestServer({ now: () => nowMs });
  mira = server.browser();
  await send(mira, '/office/api/session', { number: 'sp-20417', pin: '2041' });
  const file = await PDFDocument.create();
  for (let i = 0; i < 3; i++) file.addPage();
  pdf = Buffer.from(await file.save());
});
afterEach(() => server.close());

const send = (browser: Browser, path: string, body: unknown): Promise<Response> =>
  browser(path, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
const weather = (kind: Weather): Promise<Response> => send(mira, '/office/api/weather', { weather: kind });
const NAME = 'Tolvanen-Adeyemi_SP-20417_Set4.pdf';
let keys = 0;

interface Wishes {
  readonly assignment?: string;
  readonly key?: string;
  readonly fileName?: string;
  readonly fields?: object;
  readonly file?: Buffer;
  readonly claimed?: string;
  readonly from?: number;
}
async function handIn(
  browser: Browser,
  {
    assignment = 'tides-set-4',
    key = `key-${++keys}-of-test`,
    fileName = NAME,
    fields = { section: 'B' },
    file = pdf,
    claimed = sha256(file),
    from = 0,
  }: Wishes = {},
): Promise<Response> {
  const form = new FormData();
  for (const [name, value] of Object.entries({
    key,
    sha256: claimed,
    fileName,
    comment: 'Please see page 2.',
    fields: JSON.stringify(fields),
    offset: String(from),
  }))
    form.set(name, value);
  form.set('file', new Blob([file.subarray(from) as Uint8Array<ArrayBuffer>], { type: 'application/pdf' }), fileName);
  return browser(`/office/api/assignments/${assignment}/submissions`, { method: 'POST', body: form });
}
/** What became of it once the office has looked. */
async function outcome(response: Response): Promise<TicketView> {
  expect(response.status).toBe(202);
  const { submissionId } = (await response.json()) as TicketView;
  nowMs += 10_000;
  return (await (await mira(`/office/api/tickets/${submissionId}`)).json()) as TicketView;
}
const refusal = async (wishes: Wishes): Promise<string> => {
  const ticket = await outcome(await handIn(mira, wishes));
  return ticket.state === 'refused' ? ticket.message : ticket.state;
};

describe('what nobody asks after', () => {
  const tries = (): Promise<Response> =>
    handIn(mira, { assignment: 'ropework-plate-2', fileName: 'plate.pdf', fields: {} });

  it('is accepted by the office’s own clock, and shown to the reader', async () => {
    const { submissionId } = (await (await handIn(mira)).json()) as TicketView;
    const ines = server.browser();
    await send(ines, '/office/api/session', { number: 'ST-0112', pin: '0112' });
    expect(await (await ines('/office')).text()).not.toContain(submissionId);
    nowMs += 10_000;
    expect(await (await ines('/office')).text()).toContain(submissionId);
    expect(((await (await mira('/office/api/submissions')).json()) as ReceiptsView).receipts).toHaveLength(1);
  });

  it('counts as an attempt from the door on, also where several come at once', async () => {
    const tickets = await Promise.all(Array.from({ length: 5 }, tries));
    const outcomes = await Promise.all(tickets.map(outcome));
    expect(outcomes.map(({ state }) => state).sort()).toEqual([
      'accepted',
      'accepted',
      'accepted',
      'refused',
      'refused',
    ]);
    const { receipts } = (await (await mira('/office/api/submissions')).json()) as ReceiptsView;
    expect(receipts.map(({ attempt }) => attempt).sort()).toEqual([1, 2, 3]);
  });

  it('is kept and shown to nobody where it was refused', async () => {
    const ticket = await outcome(await handIn(mira, { fields: {} }));
    expect(ticket.state).toBe('refused');
    const { submissionId } = ticket as { submissionId: string };
    const ines = server.browser();
    await send(ines, '/office/api/session', { number: 'ST-0112', pin: '0112' });
    for (const browser of [mira, ines])
      expect((await browser(`/office/api/submissions/${submissionId}/file`)).status).toBe(404);
    expect((await ines(`/office/read/${submissionId}`)).status).toBe(404);
  });
});

describe('handing in at the office', () => {
  it('gives a receipt with number, time and SHA-256 once it has been looked at', async () => {
    const ticket = await outcome(await handIn(mira));
    expect(ticket).toMatchObject({
      state: 'accepted',
      receipt: {
        fileName: NAME,
        pages: 3,
        sha256: sha256(pdf),
        late: false,
        attempt: 1,
        comment: 'Please see page 2.',
      },
    });
    const { receipts } = (await (await mira('/office/api/submissions')).json()) as ReceiptsView;
    expect(receipts).toHaveLength(1);
    expect(receipts[0]!.number).toMatch(/^SP-[0-9A-F]{8}$/);
  });

  it('counts the same key once', async () => {
    const first = await outcome(await handIn(mira, { key: 'the-very-same' }));
    const second = await outcome(await handIn(mira, { key: 'the-very-same' }));
    expect(second.submissionId).toBe(first.submissionId);
  });

  it('goes on from the byte at which the line broke', async () => {
    const half = Math.floor(pdf.length / 2);
    // the first half arrives as a form that is cut short
    const boundary = 'cut';
    const head = [
      'key',
      'resumed-key',
      'sha256',
      sha256(pdf),
      'fileName',
      NAME,
      'fields',
      '{"section":"B"}',
      'offset',
      '0',
    ];
    const fields = Array.from(
      { length: head.length / 2 },
      (_, i) => `--${boundary}\r\nContent-Disposition: form-data; name="${head[2 * i]}"\r\n\r\n${head[2 * i + 1]}\r\n`,
    ).join('');
    const body = Buffer.concat([
      Buffer.from(
        `${fields}--${boundary}\r\nContent-Disposition: form-data; name="file"; filename="a.pdf"\r\nContent-Type: application/pdf\r\n\r\n`,
      ),
      pdf.subarray(0, half),
    ]);
    expect(
      (
        await mira('/office/api/assignments/tides-set-4/submissions', {
          method: 'POST',
          headers: { 'content-type': `multipart/form-data; boundary=${boundary}` },
          body,
        })
      ).status,
    ).toBe(400);
    const { received } = (await (await mira('/office/api/uploads/resumed-key')).json()) as { received: number };
    expect(received).toBeGreaterThan(0);
    expect(await outcome(await handIn(mira, { key: 'resumed-key', from: received }))).toMatchObject({
      state: 'accepted',
      receipt: { sha256: sha256(pdf) },
    });
  });

  it.each<[string, Wishes, RegExp]>([
    ['another file than was checked', { claimed: 'a'.repeat(64) }, /changed on its way/],
    ['what is no PDF', { file: Buffer.from('a letter') }, /not a PDF/],
    [
      'a file over the limit',
      { file: Buffer.concat([Buffer.from('%PDF-'), Buffer.alloc(1_000_001)]) },
      /not a PDF|are allowed/,
    ],
    ['another name', { fileName: 'scan0001.pdf' }, /must be called “Tolvanen-Adeyemi_SP-20417_Set4.pdf”/],
    ['a missing field', { fields: {} }, /Section \(A to D\) is missing/],
    ['a closed assignment', { assignment: 'tides-set-3', fileName: 'a.pdf' }, /is closed/],
  ])('refuses %s, naming the way on', async (_what, wishes, says) => {
    expect(await refusal(wishes)).toMatch(says);
  });

  it('takes late work as late while it may, and lets it be withdrawn until it closes', async () => {
    nowMs = NOW_MS + 8 * 3_600_000;
    const ticket = await outcome(await handIn(mira));
    if (ticket.state !== 'accepted') throw new Error('not accepted');
    expect(ticket.receipt.late).toBe(true);
    const withdraw = (): Promise<Response> =>
      mira(`/office/api/submissions/${ticket.submissionId}/withdraw`, { method: 'POST' });
    expect(await (await withdraw()).json()).toMatchObject({ withdrawn: true });
    expect((await withdraw()).status).toBe(400);
  });

  it('says when it is down, and refuses without losing anything', async () => {
    await weather('down');
    expect((await handIn(mira)).status).toBe(503);
    await weather('refusing');
    expect(await refusal({})).toMatch(/Yours is not lost/);
    await weather('calm');
    expect((await outcome(await handIn(mira))).state).toBe('accepted');
  });
});

describe('what the office shows', () => {
  it('is for readers and for each student’s own work only', async () => {
    const ticket = await outcome(await handIn(mira));
    const page = `/office/read/${ticket.submissionId}`;
    const jonas = server.browser();
    await send(jonas, '/office/api/session', { number: 'SP-20388', pin: '2038' });
    expect((await jonas(page)).status).toBe(403);
    expect((await jonas(`/office/api/submissions/${ticket.submissionId}/file`)).status).toBe(404);
    expect((await mira(page)).status).toBe(200);
    const ines = server.browser();
    await send(ines, '/office/api/session', { number: 'ST-0112', pin: '0112' });
    expect(await (await ines('/office')).text()).toContain('Tolvanen-Adeyemi, Mira');
    const note = await ines(`${page}/notes`, {
      method: 'POST',
      headers: { 'content-type': 'application/x-www-form-urlencoded' },
      body: 'page=2&text=<b>Good</b>',
      redirect: 'manual',
    });
    expect(note.status).toBe(303);
    expect(await (await mira(page)).text()).toContain('Page 2: &lt;b&gt;Good&lt;/b&gt;');
  });
});

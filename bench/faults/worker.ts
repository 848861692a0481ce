import { createHash, randomInt } from 'node:crypto';
import { setTimeout as pause } from 'node:timers/promises';
import { PDFDocument } from '@cantoo/pdf-lib';
import sharp from 'sharp';
import type { HandIn } from '../../core/work/hand-in/handIn';
import { wholePhotoRecipe } from '../../core/work/recipe/plainRecipe';

export const sha256 = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

/** A student who works through the API, tries again what was not answered, and remembers what was. */
export class Worker {
  private cookie = '';
  private readonly device = Buffer.from(Array.from({ length: 32 }, () => randomInt(256))).toString('base64url');
  private seq = 0;
  readonly originals = new Map<string, Buffer>();
  readonly turns = new Map<string, number>();
  readonly receipts: string[] = [];
  repeats = 0;
  stopped = false;
  constructor(
    readonly n: number,
    private readonly url: string,
    private readonly paceMs: number,
  ) {}

  private async send(at: string, init: RequestInit = {}): Promise<Response> {
    for (;;) {
      try {
        const response = await fetch(`${this.url}${at}`, {
          ...init,
          headers: {
            ...(init.headers as Record<string, string>),
            cookie: this.cookie,
            'x-fotoplan-device': this.device,
          },
        });
        for (const set of response.headers.getSetCookie())
          this.cookie = [
            ...this.cookie.split('; ').filter((each) => each !== '' && each.split('=')[0] !== set.split('=')[0]),
            set.split(';')[0]!,
          ].join('; ');
        await response.clone().arrayBuffer();
        if (response.status >= 500) throw new Error(String(response.status));
        if (response.status >= 400) throw new Error(`refused: ${response.status} ${await response.text()}`);
        return response;
      } catch (error) {
        if (error instanceof Error && error.message.startsWith('refused')) throw error;
        this.repeats++;
        await pause(100);
      }
    }
  }
  private json = (at: string, body: unknown): Promise<Response> =>
    this.send(at, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });

  get handInId(): string {
    return `hand-in-of-${this.n}`;
  }

  async work(): Promise<void> {
    const stamp = () => ({ id: `op-${this.n}-${++this.seq}`.padEnd(9, '-'), handInId: this.handInId, atMs: this.seq });
    await this.json('/api/operations', {
      operations: [{ ...stamp(), kind: 'createHandIn', title: 'Set 4', paper: 'auto' }],
    });
    await this.json('/office/api/session', { number: 'SP-20388', pin: '2038' });
    while (!this.stopped) {
      const photo = Buffer.concat([
        await sharp({
          create: { width: 300, height: 424, channels: 3, background: { r: randomInt(256), g: 90, b: 120 } },
        })
          .jpeg()
          .toBuffer(),
        Buffer.from(String(Math.random())),
        Buffer.alloc(randomInt(900_000)),
      ]);
      const id = sha256(photo);
      await this.send(`/api/originals/${id}`, { method: 'PUT', body: photo as never });
      this.originals.set(id, photo);
      const pageId = `page-${this.n}-${this.seq}`.padEnd(9, '-');
      const recipe = wholePhotoRecipe(300, 424, 'daylight');
      await this.json('/api/operations', {
        operations: [
          { ...stamp(), kind: 'addPage', pageId, originalId: id, fileName: 'a.jpg', width: 300, height: 424, recipe },
        ],
      });
      const turns = randomInt(4);
      await this.json('/api/operations', {
        operations: [{ ...stamp(), kind: 'setRecipe', pageId, recipe: { ...recipe, quarterTurns: turns } }],
      });
      this.turns.set(pageId, turns);
      if (this.seq % 7 === 0) await this.handIn();
      await pause(randomInt(Math.ceil(this.paceMs / 10)));
    }
  }

  private async handIn(): Promise<void> {
    const pdf = await PDFDocument.create();
    pdf.addPage();
    pdf.addPage();
    const file = Buffer.concat([await pdf.save(), Buffer.from(`\n%${this.n} ${this.seq}\n`)]);
    for (;;) {
      const form = new FormData();
      for (const [name, value] of Object.entries({
        key: `fault-key-${this.n}-${this.seq}`,
        offset: '0',
        sha256: sha256(file),
        fileName: 'a.pdf',
        fields: '{}',
      }))
        form.set(name, value);
      form.set('file', new Blob([file]), 'a.pdf');
      let ticket = (await (
        await this.send('/office/api/assignments/botany-shore-log/submissions', { method: 'POST', body: form })
      ).json()) as { state: string; submissionId: string; receipt?: { number: string; sha256: string } };
      while (ticket.state === 'queued') {
        await pause(200);
        ticket = (await (await this.send(`/office/api/tickets/${ticket.submissionId}`)).json()) as typeof ticket;
      }
      if (ticket.state === 'accepted') this.receipts.push(ticket.receipt!.number);
      return;
    }
  }

  /** What is missing of what was acknowledged. */
  async missing(): Promise<string[]> {
    const missing: string[] = [];
    for (const [id, photo] of this.originals) {
      const back = Buffer.from(await (await this.send(`/api/originals/${id}`)).arrayBuffer());
      if (!back.equals(photo)) missing.push(`original ${id}`);
    }
    const handIn = (await (await this.send(`/api/hand-ins/${this.handInId}`)).json()) as HandIn;
    for (const [pageId, turns] of this.turns)
      if (handIn.pages.filter((page) => page.id === pageId && page.recipe.quarterTurns === turns).length !== 1)
        missing.push(`recipe of ${pageId}`);
    const { receipts } = (await (await this.send('/office/api/submissions')).json()) as {
      receipts: { number: string }[];
    };
    for (const number of this.receipts)
      if (receipts.filter((receipt) => receipt.number === number).length !== 1) missing.push(`receipt ${number}`);
    return missing;
  }
}

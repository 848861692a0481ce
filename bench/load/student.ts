import { createHash, randomFillSync } from 'node:crypto';
import { setTimeout as pause } from 'node:timers/promises';
import { UPLOAD_PART_BYTES } from '../../contract/uploadParts';
import { wholePhotoRecipe } from '../../core/work/recipe/plainRecipe';
import { Screen, type Measured } from './screen';

export const PHOTOS = 5;
export const PHOTO_BYTES = 3_000_000;
export interface Materials {
  /** The start of each photo; what follows differs from one to the next. */
  readonly photoStart: Buffer;
  /** A bound file of the size that five pages have. */
  readonly pdf: Buffer;
}

/** One who takes photos with a phone, binds and hands in, the evening before; a linked laptop listens. */
export class Student {
  private readonly phone: Screen;
  private readonly laptop: Screen;
  private readonly originals: string[] = [];
  private readonly leaving = new AbortController();
  /** Changes that the laptop heard of while the phone worked. */
  heard = 0;
  constructor(
    readonly n: number,
    url: string,
    private readonly measured: Measured,
  ) {
    this.phone = new Screen(url, measured);
    this.laptop = new Screen(url, measured);
  }

  private async linkLaptop(): Promise<void> {
    const { code } = (await (await this.phone.json('/api/link-codes', {})).json()) as { code: string };
    await this.laptop.json('/api/link', { code });
  }
  /** Listens for changes as an open app does, until the student leaves. */
  private async listen(): Promise<void> {
    const { body } = await this.laptop.ask('/api/events', { signal: this.leaving.signal });
    for await (const part of body!.pipeThrough(new TextDecoderStream()))
      this.heard += part.split('"changed"').length - 1;
  }

  async work({ photoStart, pdf }: Materials): Promise<void> {
    const id = `hand-in-of-${this.n}`;
    const stamp = (what: string) => ({ id: `${what}-${this.n}`.padEnd(10, '-'), handInId: id, atMs: Date.now() });
    await (await this.phone.send('/api/changes?since=0')).json();
    await this.phone.json('/api/operations', {
      operations: [{ ...stamp('create'), kind: 'createHandIn', title: 'Set 4', paper: 'auto' }],
    });
    await this.linkLaptop();
    const listening = this.listen().catch((error: unknown) => {
      if (!this.leaving.signal.aborted) this.measured.problems.push(`student ${this.n} was cut off: ${String(error)}`);
    });
    for (let p = 0; p < PHOTOS; p++) await this.addPage(p, photoStart, stamp);
    const file = Buffer.concat([pdf, Buffer.from(`\n%${this.n}\n`)]);
    const sha256 = createHash('sha256').update(file).digest('hex');
    await this.phone.send(
      `/api/hand-ins/${id}/bound-files/file-of-${this.n}?name=a.pdf&pages=${PHOTOS}&sha256=${sha256}`,
      { method: 'PUT', body: file as never },
      this.measured.large,
    );
    await this.handIn(file, sha256);
    this.leaving.abort();
    await listening;
  }

  private async addPage(p: number, photoStart: Buffer, stamp: (what: string) => object): Promise<void> {
    const photo = Buffer.alloc(PHOTO_BYTES);
    photoStart.copy(photo);
    randomFillSync(photo, photoStart.length);
    const sha256 = createHash('sha256').update(photo).digest('hex');
    await (await this.phone.send(`/api/originals/${sha256}/parts`)).json();
    for (let seq = 0; seq * UPLOAD_PART_BYTES < photo.length; seq++)
      await this.phone.send(
        `/api/originals/${sha256}/parts/${seq}`,
        { method: 'PUT', body: photo.subarray(seq * UPLOAD_PART_BYTES, (seq + 1) * UPLOAD_PART_BYTES) as never },
        this.measured.large,
      );
    await this.phone.send(`/api/originals/${sha256}/done`, { method: 'POST' }, this.measured.large);
    this.originals.push(sha256);
    const pageId = `page-${p}-of-${this.n}`;
    const recipe = wholePhotoRecipe(300, 424, 'daylight');
    const added = {
      kind: 'addPage',
      pageId,
      originalId: sha256,
      fileName: `${p}.jpg`,
      width: 300,
      height: 424,
      recipe,
    };
    await this.phone.json('/api/operations', { operations: [{ ...stamp(`add-${p}`), ...added }] });
    const turned = { kind: 'setRecipe', pageId, recipe: { ...recipe, quarterTurns: 1 }, fields: ['quarterTurns'] };
    await this.phone.json('/api/operations', { operations: [{ ...stamp(`set-${p}`), ...turned }] });
  }

  private async handIn(file: Buffer, sha256: string): Promise<void> {
    await this.phone.json('/office/api/session', { number: `LD-${this.n}`, pin: 'load' });
    const form = new FormData();
    const fields = { key: `load-key-${this.n}`, offset: '0', sha256, fileName: 'plate.pdf', comment: '', fields: '{}' };
    for (const [name, value] of Object.entries(fields)) form.set(name, value);
    form.set('file', new Blob([file as Uint8Array<ArrayBuffer>]), 'plate.pdf');
    const ticket = (await (
      await this.phone.send(
        '/office/api/assignments/load-set/submissions',
        { method: 'POST', body: form },
        this.measured.large,
      )
    ).json()) as { submissionId: string; state: string };
    let { state } = ticket;
    while (state === 'queued') {
      await pause(300);
      state = (
        (await (await this.phone.send(`/office/api/tickets/${ticket.submissionId}`)).json()) as { state: string }
      ).state;
    }
    if (state !== 'accepted') this.measured.problems.push(`student ${this.n} was ${state}`);
  }

  /** @returns how many originals came back as they were sent */
  async check(): Promise<number> {
    let whole = 0;
    for (const sha256 of this.originals) {
      const bytes = Buffer.from(await (await this.phone.send(`/api/originals/${sha256}`, {}, [])).arrayBuffer());
      if (createHash('sha256').update(bytes).digest('hex') === sha256) whole++;
    }
    return whole;
  }
}

/** Everybody on the campus is behind one address, as their proxy names it. */
const CAMPUS = '198.51.100.7';

/** What all students together saw. */
export interface Measured {
  /** How long each answer took, ms. */
  readonly small: number[];
  readonly large: number[];
  readonly problems: string[];
}

/** A browser with its cookies. */
export class Screen {
  private readonly cookies = new Map<string, string>();
  constructor(
    private readonly url: string,
    private readonly measured: Measured,
  ) {}

  /** @returns once the answer has begun */
  async ask(at: string, init: RequestInit = {}): Promise<Response> {
    const response = await fetch(`${this.url}${at}`, {
      ...init,
      headers: {
        ...(init.headers as Record<string, string>),
        'x-forwarded-for': CAMPUS,
        cookie: [...this.cookies].map(([name, value]) => `${name}=${value}`).join('; '),
      },
    });
    for (const set of response.headers.getSetCookie()) {
      const [, name, value] = /^([^=]+)=([^;]*)/.exec(set)!;
      this.cookies.set(name!, value!);
    }
    return response;
  }
  async send(at: string, init: RequestInit = {}, times: number[] = this.measured.small): Promise<Response> {
    const began = performance.now();
    const response = await this.ask(at, init);
    times.push(performance.now() - began);
    if (response.status >= 400)
      this.measured.problems.push(
        `${init.method ?? 'GET'} ${at.replaceAll(/[0-9a-f]{64}/g, '…')}: ${response.status} ${await response.clone().text()}`,
      );
    return response;
  }
  json = (at: string, body: unknown): Promise<Response> =>
    this.send(at, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
}

import { Ajv2020 } from 'ajv/dist/2020.js';
import type { Router } from 'express';
import { PDFDocument } from '@cantoo/pdf-lib';
import type { LinkCodeView, RecoveryCodeView, ScreensView } from '../../contract/views';
import {
  newHandIn,
  newPage,
  samplePhoto,
  sendOperations,
  sendOriginal,
  sha256,
  startTestServer,
  type Browser,
  type TestServer,
} from '../testServer';
import { answerProblems, endpointOf } from './answerProblems';
import { ENDPOINTS } from './endpoints';
import { openApi, type OpenApi } from './openApi';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.close());

const json = (method: string, body: unknown): RequestInit => ({
  method,
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify(body),
});
const bytes = (body: Uint8Array): RequestInit => ({ method: 'PUT', body: new Blob([body as Uint8Array<ArrayBuffer>]) });

interface Layer {
  readonly handle: Router & { readonly stack?: readonly Layer[] };
  readonly route?: { readonly path: string; readonly methods: Readonly<Record<string, boolean>> };
}
/** The routes of a router and of those in it. */
const routesOf = (layers: readonly Layer[]): string[] =>
  layers.flatMap(({ handle, route }) =>
    route === undefined
      ? routesOf(handle.stack ?? [])
      : Object.keys(route.methods).map((method) => `${method} ${route.path}`),
  );

describe('/api/openapi.json', () => {
  it('is served, is OpenAPI 3.1, and its schemas are JSON Schema', async () => {
    const document = (await (await server.browser()('/api/openapi.json')).json()) as OpenApi;
    expect(document).toEqual(JSON.parse(JSON.stringify(openApi())));
    expect(document.openapi).toBe('3.1.0');
    const ajv = new Ajv2020({ strict: false, schemas: [{ ...document, $id: 'api' }] });
    for (const name of Object.keys(document.components.schemas))
      expect(() => ajv.compile({ $ref: `api#/components/schemas/${name}` })).not.toThrow();
  });

  it('describes every route under /api and nothing else', () => {
    const all = (server.app.router as unknown as { stack: readonly Layer[] }).stack;
    const api = all
      .map(({ handle }) => routesOf(handle.stack ?? []))
      .find((routes) => routes.includes('get /changes'))!;
    expect(ENDPOINTS.map(({ method, path }) => `${method} ${path}`).sort()).toEqual([...api].sort());
  });

  it('is what is really answered', async () => {
    const seen = new Set<string>();
    const open = (): Browser => {
      const browser = server.browser();
      return async (path, init = {}) => {
        const response = await browser(path, init);
        const endpoint = endpointOf(init.method ?? 'GET', path.replace(/\?.*$/, ''))!;
        if (response.ok) seen.add(`${endpoint.method} ${endpoint.path}`);
        return response;
      };
    };
    const phone = open();
    const laptop = open();
    const photo = await samplePhoto(60, 200);
    const photoId = sha256(photo);
    const inParts = await samplePhoto(90);
    await sendOriginal(phone, photo);
    const upload = `/api/originals/${sha256(inParts)}`;
    await phone(`${upload}/parts/0`, bytes(inParts));
    await phone(`${upload}/parts`);
    await phone(`${upload}/done`, { method: 'POST' });
    await phone('/api/originals', json('POST', { ids: [photoId] }));
    await phone(`/api/originals/${photoId}`);
    const picture = `/api/originals/${photoId}/pictures/0/thumbnail`;
    await phone(picture, bytes(photo));
    await phone(picture);
    await sendOperations(phone, newHandIn('hand-in-1'), newPage('hand-in-1', 'page-0001', photoId));
    await phone('/api/hand-ins/hand-in-1');
    const document = await PDFDocument.create();
    document.addPage();
    const file = await document.save();
    const facts = JSON.stringify({ madeFrom: photoId, pageBytes: [1], codings: [0] });
    await phone(
      `/api/hand-ins/hand-in-1/bound-files/bound-file-1?${new URLSearchParams({ name: 'a.pdf', pages: '1', sha256: sha256(file), facts }).toString()}`,
      bytes(file),
    );
    await phone('/api/hand-ins/hand-in-1/bound-files');
    await phone('/api/bound-files/bound-file-1');
    const name = { pieces: [{ kind: 'number' }, { kind: 'date', form: '2026-11-24' }], separator: '_' };
    const profile = {
      first: 'Noor',
      family: 'Tolvanen',
      number: 'SP-1',
      paper: 'a4',
      name,
      courseNames: { BOT: name },
    };
    await phone('/api/profile');
    await phone('/api/profile', json('PUT', profile));
    await phone('/api/changes?since=0');
    const { code } = (await (await phone('/api/link-codes', { method: 'POST' })).json()) as LinkCodeView;
    await laptop('/api/link/look', json('POST', { code }));
    await laptop('/api/link', json('POST', { code }));
    const { screens } = (await (await laptop('/api/screens')).json()) as ScreensView;
    await laptop(`/api/screens/${screens.find(({ thisOne }) => thisOne)!.id}`, { method: 'DELETE' });
    await phone('/api/recovery-code');
    const { words } = (await (await phone('/api/recovery-code', { method: 'POST' })).json()) as RecoveryCodeView;
    await open()('/api/recover', json('POST', { code: words.join(' ') }));
    await phone('/api/practice-photos');
    await phone('/api/practice-table');
    await phone('/api/openapi.json');
    const listening = await phone('/api/events');
    await listening.body!.cancel();
    await phone('/api/delete-everything', json('POST', { word: 'delete' }));
    expect([...seen].sort()).toEqual(ENDPOINTS.map(({ method, path }) => `${method} ${path}`).sort());
  });

  it.each([
    ['a field that nobody described', { seqBefore: 1, seq: 2, repeated: false, more: 1 }, 200],
    ['a field that lacks', { seqBefore: 1, seq: 2 }, 200],
    ['a field of another kind', { seqBefore: 1, seq: '2', repeated: false }, 200],
    ['a status that is not described', { seqBefore: 1, seq: 2, repeated: false }, 201],
    ['a refusal with a code of its own', { code: 'ODD', message: 'Odd.' }, 400],
  ])('shows %s', async (_case, body, status) => {
    const response = new Response(JSON.stringify(body), { status, headers: { 'content-type': 'application/json' } });
    expect(await answerProblems('POST', '/api/operations', response)).not.toEqual([]);
  });
});

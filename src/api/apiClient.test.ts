import { createApiClient } from './apiClient';

const answer = (status: number, body: unknown): typeof fetch => () => Promise.resolve({ status, ok: status < 400, json: () => Promise.resolve(body) } as Response);

describe('the API client', () => {
  it('turns the server’s code and sentence into an error', async () => {
    const api = createApiClient(answer(404, { code: 'NOT_FOUND', message: 'This photo is not here. Add it again.' }));
    await expect(api.fetchOriginal('x')).rejects.toMatchObject({ code: 'NOT_FOUND', message: 'This photo is not here. Add it again.' });
  });

  it.each([
    ['no answer', (() => Promise.reject(new TypeError('failed')))],
    ['a gateway without a server behind it', answer(502, null)],
  ])('calls %s being offline, and says that nothing is lost', async (_name, send) => {
    await expect(createApiClient(send).handIns()).rejects.toMatchObject({ code: 'OFFLINE', message: expect.stringContaining('kept on this device') as string });
  });

  it('makes something usable of an answer in a language it does not know', async () => {
    await expect(createApiClient(answer(500, '<html>')).handIns()).rejects.toMatchObject({ code: 'INTERNAL' });
    await expect(createApiClient(answer(418, { code: 'TEAPOT', message: 'short' })).handIns()).rejects.toMatchObject({ code: 'INTERNAL', message: 'short' });
  });
});

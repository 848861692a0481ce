import 'reflect-metadata';
import { Config, readConfig } from './config';

describe('the settings', () => {
  it('have defaults; an empty value is none', () => {
    expect(readConfig({})).toEqual(new Config());
    expect(readConfig({ PORT: '', DEMO: '' })).toMatchObject({ PORT: 4310, DEMO: false });
    expect(
      readConfig({ PORT: '80', DEMO: '1', CHECKPOINTS: 'false', PUBLIC_URL: 'https://fotoplan.skerry.example' }),
    ).toMatchObject({ PORT: 80, DEMO: true, CHECKPOINTS: false });
  });

  it.each([
    ['PORT', 'http'],
    ['PORT', '70000'],
    ['DEMO', 'maybe'],
    ['REQUESTS_A_MINUTE', 'twenty'],
    ['REQUESTS_A_MINUTE', '-1'],
    ['TRUST_PROXY', '1.5'],
    ['LOG_LEVEL', 'loud'],
    ['PUBLIC_URL', 'fotoplan.skerry.example'],
    ['PUBLIC_URL', 'https://skerry.example/fotoplan'],
  ])('%s=%s stops the start, and is named', (name, value) => {
    expect(() => readConfig({ [name]: value })).toThrow(
      new RegExp(`do(es)? not start[^]*${name}=${value.replace(/[.?]/g, '\\$&')}: `),
    );
  });

  it('say all that is wrong at once, and what a bucket needs', () => {
    expect(() => readConfig({ PORT: 'x', BLOB_BUCKET: 'photos' })).toThrow(
      /PORT=x: must be an integer number\.[^]*S3_ACCESS_KEY_ID is needed[^]*S3_SECRET_ACCESS_KEY is needed/,
    );
  });
});

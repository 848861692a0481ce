import { FotoplanError } from '../core/errors';
import { refuseWildJson } from './refuseWildJson';

const look = (json: string) => () => refuseWildJson(null as never, null as never, Buffer.from(json));

it.each([
  ['41 lists in each other', '['.repeat(41) + ']'.repeat(41)],
  ['braces that never close', '{"a":'.repeat(300_000)],
  ['very many empty lists', `[${'[],'.repeat(120_000)}0]`],
])('refuses %s', (_case, json) => {
  expect(look(json)).toThrow(FotoplanError);
});

it.each([
  ['40 lists in each other', '['.repeat(40) + ']'.repeat(40)],
  ['brackets in words', JSON.stringify({ title: `a quote " and ${'[{'.repeat(500)}`, other: '\\' })],
  ['a hundred thousand points but one', `[${'{"x":1},'.repeat(99_998)}0]`],
  ['what is no JSON: its parser says so', '"never ends ['],
])('takes %s', (_case, json) => {
  expect(look(json)).not.toThrow();
});

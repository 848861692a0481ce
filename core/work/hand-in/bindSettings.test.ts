import { PLAIN_BINDING, readBindSettings, type BindSettings } from './bindSettings';

const name = { pieces: [{ kind: 'number' }, { kind: 'date', form: '20261124' }], separator: '_' } as const;

it('keeps settings that can be', () => {
  const settings: BindSettings = {
    marginMm: 7.5,
    sameWidth: true,
    cover: true,
    searchable: true,
    language: 'ar' as const,
    showMarks: false,
    author: true,
    maxBytes: 1e6,
    name,
  };
  expect(readBindSettings(JSON.parse(JSON.stringify(settings)))).toEqual(settings);
});

it.each<[string, unknown]>([
  ['nothing', undefined],
  ['words', 'wide'],
  ['a margin wider than any', { marginMm: 400 }],
  ['a limit that no file fits into', { maxBytes: 12 }],
  ['a name of unknown pieces', { name: { ...name, pieces: [{ kind: 'shoe size' }] } }],
  ['a name of nothing', { name: { ...name, pieces: [null] } }],
  ['a name parted by what no file may have', { name: { ...name, separator: '/' } }],
  ['words for a switch', { cover: 'yes' }],
])('takes the defaults for %s', (_case, stored) => {
  expect(readBindSettings(stored)).toEqual(PLAIN_BINDING);
});

import { i18n, type Messages } from '@lingui/core';
import { FotoplanError } from '../../core/errors';
import { errorText } from './errorText';
import { readableBytes, timeFrom } from './formats';
import { messages as ar } from './catalogues/ar';
import { messages as de } from './catalogues/de';
import { languageFor } from './languages';
import { undoText } from './stepText';

const HOUR = 3_600_000;

const speak = (locale: string, messages: Messages, locales: string[]): void =>
  i18n.loadAndActivate({ locale, messages, locales });
afterEach(() => speak('en', {}, ['en-GB']));

describe('languages', () => {
  it.each([
    [['de-AT', 'en'], 'de'],
    [['fr', 'es-MX'], 'es'],
    [['ar-EG'], 'ar'],
    [['fi', 'sv'], 'en'],
    [[], 'en'],
  ])('a device that prefers %j is spoken to in %s', (preferred, language) => {
    expect(languageFor(preferred)).toBe(language);
  });

  it.each([
    [12, '12 bytes'],
    [412_300, '412 KB'],
    [999_499, '999 KB'],
    [999_600, '1 MB'],
    [10_240_000, '10.2 MB'],
    [5_369_200_000, '5.4 GB'],
  ])('%d bytes are "%s"', (bytes, words) => expect(readableBytes(bytes)).toBe(words));

  it('sizes and times are written as each language writes them', () => {
    expect([timeFrom(3 * HOUR, 0), timeFrom(-49 * HOUR, 0)]).toEqual(['in 3 hours', '2 days ago']);
    speak('de', de, ['de']);
    expect([readableBytes(1_200_000), timeFrom(3 * HOUR, 0)]).toEqual(['1,2 MB', 'in 3 Stunden']);
    speak('ar', ar, ['ar-u-nu-latn']);
    expect(readableBytes(1_200_000)).toMatch(/^1[.,٫]2/);
  });

  it('a step that can be undone is named, that of an earlier version by its own words', () => {
    expect([
      undoText({ key: 'deletePages', count: 3 }),
      undoText({ key: 'deletePages' }),
      undoText('the turn'),
    ]).toEqual(['Undo deleting 3 pages', 'Undo deleting a page', 'Undo the turn']);
  });

  it('an error is told by what is known of it, in every language', () => {
    const empty = new FotoplanError('PHOTO_EMPTY', '“a.jpg” is empty: 0 bytes arrived.', { name: 'a.jpg' });
    expect([errorText(empty, 'no'), errorText(new Error('strange'), 'It failed.')]).toEqual([
      empty.message,
      'It failed.',
    ]);
    speak('de', de, ['de']);
    expect(errorText(empty, 'no')).toMatch(/a\.jpg.*leer/);
    expect(errorText(new FotoplanError('INTERNAL', 'inside'), 'Es ging nicht.')).toBe('Es ging nicht.');
    expect(i18n.locale).toBe('de');
  });
});

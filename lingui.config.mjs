import { formatter } from '@lingui/format-po';

/** English is the source: its sentences stand in the code, each in a `t`, `msg` or `plural`; `npm run words` brings the catalogues up to date. */
export default {
  locales: ['en', 'es', 'de', 'ar'],
  sourceLocale: 'en',
  catalogs: [
    {
      path: '<rootDir>/src/i18n/catalogues/{locale}',
      include: ['<rootDir>/src', '<rootDir>/app'],
      exclude: ['**/*.test.*'],
    },
  ],
  format: formatter({ lineNumbers: false }),
};

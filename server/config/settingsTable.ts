import { Config, SETTINGS } from './config';

/** Every setting with its default, as a table for docs/operating.md. */
export function settingsTable(): string {
  const defaults = new Config();
  const shown = (value: string | number | boolean): string =>
    value === '' ? '' : `\`${typeof value === 'boolean' ? Number(value) : value}\``;
  return [
    '| setting | default | what it does |',
    '|---|---|---|',
    ...Object.entries(SETTINGS).map(
      ([name, says]) => `| \`${name}\` | ${shown(defaults[name as keyof Config])} | ${says} |`,
    ),
  ].join('\n');
}

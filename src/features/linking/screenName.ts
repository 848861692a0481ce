import { t } from '@lingui/core/macro';
interface Named {
  readonly kind: string;
  readonly person: string;
}

/** “Phone of Mira Tolvanen-Adeyemi”; within a sentence “the phone of …”. */
export function screenName({ kind, person }: Named, article: 'the' | '' = ''): string {
  const isPhone = kind === 'Phone';
  const device = article === '' ? (isPhone ? t`Phone` : t`Computer`) : isPhone ? t`the phone` : t`the computer`;
  return person === '' ? device : t`${device} of ${person}`;
}

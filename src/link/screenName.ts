interface Named {
  readonly kind: string;
  readonly person: string;
}

/** “Phone of Mira Tolvanen-Adeyemi”; within a sentence “the phone of …”. */
export function screenName({ kind, person }: Named, article: 'the' | '' = ''): string {
  const of = person === '' ? '' : ` of ${person}`;
  return article === '' ? `${kind}${of}` : `the ${kind.toLowerCase()}${of}`;
}

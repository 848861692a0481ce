const withoutNumbers = (name: string): string => name.replace(/\d+/g, '#');

/**
 * Photos whose names differ only in their numbers (as cameras and scanners name them) in that order: pickers hand them over
 * in any order. Other names say nothing about order, and the one given stays.
 */
export function inNumberedOrder<T extends { readonly name: string }>(files: readonly T[]): readonly T[] {
  const [first] = files;
  if (first === undefined || files.some(({ name }) => withoutNumbers(name) !== withoutNumbers(first.name)))
    return files;
  return [...files].sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }));
}

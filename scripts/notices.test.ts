import { readFileSync } from 'node:fs';

interface LockedPackage {
  readonly version: string;
  readonly dev?: boolean;
}
const { packages } = JSON.parse(readFileSync('package-lock.json', 'utf8')) as {
  packages: Readonly<Record<string, LockedPackage>>;
};
const nameOf = (folder: string): string => folder.replace(/^.*node_modules\//, '');
const listed = new Set(
  [...readFileSync('THIRD_PARTY_NOTICES', 'utf8').matchAll(/^((?:@[\w.-]+\/)?[\w.-]+ \d\S*) \(.+\)$/gm)].map(
    ([, title]) => title,
  ),
);

describe('THIRD_PARTY_NOTICES (npm run notices writes it anew)', () => {
  it('lists every package that a server runs, in its version', () => {
    const onServer = Object.entries(packages).filter(([folder, { dev }]) => folder !== '' && dev !== true);
    const missing = onServer
      .map(([folder, { version }]) => `${nameOf(folder)} ${version}`)
      .filter((title) => !listed.has(title));
    expect(missing).toEqual([]);
  });

  it('lists nothing that is not installed in that version', () => {
    const locked = new Set(Object.entries(packages).map(([folder, { version }]) => `${nameOf(folder)} ${version}`));
    expect([...listed].filter((title) => !locked.has(title!))).toEqual([]);
  });

  it.each([
    'react',
    'react-dom',
    'react-native-web',
    'zustand',
    'workbox-core',
    'utif2',
    'libheif-js',
    '@expo-google-fonts/bricolage-grotesque',
  ])('lists %s, which browsers are served', (name) => {
    expect([...listed].some((title) => title!.startsWith(`${name} `))).toBe(true);
  });
});

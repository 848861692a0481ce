import { existsSync, readFileSync } from 'node:fs';
import path from 'node:path';
import packageJson from '../../package.json';
import { SETTINGS } from './config';

/* What deploy/ says must be so: no container runtime is needed to see that its steps name what is there. e2e/proxy.spec.ts runs its nginx. */

const root = path.join(__dirname, '../..');
const read = (file: string): string => readFileSync(path.join(root, file), 'utf8');
const dockerfile = read('deploy/Dockerfile');
const compose = read('deploy/compose.yaml');

describe('the container file', () => {
  const steps = dockerfile.split('\n').filter((line) => /^[A-Z]+ /.test(line));
  const last = (instruction: string): string =>
    steps
      .filter((step) => step.startsWith(`${instruction} `))
      .at(-1)!
      .slice(instruction.length + 1);

  it('copies what is there or what a step before makes', () => {
    const made = ['node_modules', 'dist'];
    const sources = steps
      .filter((step) => step.startsWith('COPY '))
      .flatMap((step) => step.replace('COPY ', '').split(' ').slice(0, -1))
      .filter((source) => !source.startsWith('--from'));
    for (const source of sources) {
      const name = source.replace('/app/', '');
      expect([name, made.includes(name) || existsSync(path.join(root, name))]).toEqual([name, true]);
    }
    for (const [, script] of dockerfile.matchAll(/node (scripts\/\S+\.mjs)/g))
      expect([script, existsSync(path.join(root, script!))]).toEqual([script, true]);
  });

  it('starts the server that the build makes, as somebody who is not root, with a Node that is new enough', () => {
    expect(last('CMD')).toBe('["node", "dist/server.mjs"]');
    expect(read('scripts/buildNode.mjs')).toContain("server: 'server/main.ts'");
    expect(steps.findIndex((step) => step === 'USER node')).toBeGreaterThan(
      steps.findLastIndex((step) => step.startsWith('RUN ')),
    );
    const [, major] = /^node:(\d+)-/.exec(last('FROM'))!;
    expect(Number(major)).toBeGreaterThanOrEqual(Number(/\d+/.exec(packageJson.engines.node)![0]));
    expect(last('HEALTHCHECK')).toContain('/livez');
  });

  it('keeps only what serves: every package that is imported there is a dependency', () => {
    const served = Object.keys(packageJson.dependencies);
    const needed = [
      ...read('server/main.ts').matchAll(/own\('node_modules\/([^/']+)/g),
      ...read('server/main.ts').matchAll(/'(tesseract\.js|@tesseract\.js-data\/eng)[/']/g),
    ].map(([, name]) => name!);
    expect(needed).toContain('pdfjs-dist');
    expect(needed.filter((name) => !served.includes(name))).toEqual([]);
  });

  it('has no settings but those that there are', () => {
    const theirs = new Set(['NODE_ENV', 'MALLOC_ARENA_MAX', 'MALLOC_MMAP_THRESHOLD_']);
    const set = steps
      .filter((step) => step.startsWith('ENV '))
      .flatMap((step) => [...step.matchAll(/([A-Z_]+)=/g)].map(([, name]) => name!));
    expect(set.filter((name) => !theirs.has(name) && !Object.hasOwn(SETTINGS, name))).toEqual([]);
  });
});

describe('the compose file', () => {
  it('sets what the server knows, and the proxy knows the cohorts', () => {
    const block = /x-settings:[^]*?\n\n/.exec(compose)![0];
    const names = [...block.matchAll(/^ {2}([A-Z0-9_]+):/gm)].map(([, name]) => name!);
    expect(names).toContain('TRUST_PROXY');
    expect(names.filter((name) => !Object.hasOwn(SETTINGS, name))).toEqual([]);
    const nginx = read('deploy/nginx.conf');
    for (const [, host, cohort] of compose.matchAll(/PUBLIC_URL: https:\/\/((\w+)\.\S+)/g)) {
      expect(nginx).toContain(`server ${cohort}:4310;`);
      expect(nginx).toContain(`server_name ${host};`);
      expect(compose).toMatch(new RegExp(`^ {2}${cohort}:$`, 'm'));
    }
  });

  it('replicates every file of data', () => {
    const replicated = [...read('deploy/litestream.yml').matchAll(/\/data\/(\w+)\.sqlite/g)].map(([, name]) => name);
    expect(replicated).toEqual(['fotoplan', 'bytes', 'office', 'locker', 'post']);
  });
});

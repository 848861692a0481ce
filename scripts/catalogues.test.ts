import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { compileMessage } from '@lingui/message-utils/compileMessage';
import PO from 'pofile';
import ts from 'typescript';

const FOLDER = 'src/i18n/catalogues';
const sentencesOf = (file: string): ReadonlyMap<string, string> =>
  new Map(PO.parse(readFileSync(file, 'utf8')).items.map(({ msgid, msgstr }) => [msgid, msgstr[0] ?? '']));
const english = sentencesOf(path.join(FOLDER, 'en.po'));

/** The names of values that a sentence takes, those inside of plurals too. */
function valuesOf(sentence: string): string {
  const names = new Set<string>();
  const visit = (token: unknown): void => {
    if (!Array.isArray(token)) return;
    const [name, , cases] = token as [unknown, unknown, unknown];
    if (typeof name === 'string') names.add(name);
    for (const inner of Object.values((cases ?? {}) as Record<string, unknown>))
      if (Array.isArray(inner)) inner.forEach(visit);
  };
  compileMessage(sentence).forEach(visit);
  return [...names].sort().join();
}

it('every sentence of the app is in the catalogues (npm run words brings them up to date)', () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'fotoplan-words-'));
  const config = path.join(folder, 'lingui.config.mjs');
  const root = process.cwd();
  writeFileSync(
    config,
    readFileSync('lingui.config.mjs', 'utf8')
      .replace("'<rootDir>/src/i18n/catalogues/{locale}'", `'${folder}/{locale}'`)
      .replaceAll('<rootDir>', root)
      .replace("from '@lingui/format-po'", `from '${root}/node_modules/@lingui/format-po/dist/po.mjs'`),
  );
  execFileSync(process.execPath, ['node_modules/@lingui/cli/dist/lingui-extract.js', '--config', config], {
    stdio: 'pipe',
  });
  expect([...sentencesOf(path.join(folder, 'en.po')).keys()].sort()).toEqual([...english.keys()].sort());
  rmSync(folder, { recursive: true });
});

describe.each(['es', 'de', 'ar'])('%s', (language) => {
  const sentences = sentencesOf(path.join(FOLDER, `${language}.po`));

  it('has every sentence, with the same values', () => {
    const wrong = [...english.keys()].filter(
      (key) => (sentences.get(key) ?? '') === '' || valuesOf(sentences.get(key)!) !== valuesOf(key),
    );
    expect(wrong.map((key) => [key, sentences.get(key)])).toEqual([]);
  });

  it('has all the plurals of its language', () => {
    const forms = new Intl.PluralRules(language).resolvedOptions().pluralCategories;
    const wrong = [...sentences.values()].filter(
      (text) => text.includes(', plural,') && !forms.every((form) => new RegExp(`\\b${form} \\{`).test(text)),
    );
    expect(wrong).toEqual([]);
  });
});

/** What may stand in the interface as it is: the product's name, and what is written the same everywhere. */
const SAME_EVERYWHERE = ['Fotoplan'];
/** The kit's parts under their own names. */
const DEVELOPERS_ONLY = path.join('screens', 'PartsScreen.tsx');

it('no sentence stands in the interface outside of the catalogues', () => {
  const wrong: string[] = [];
  const files = readdirSync('src', { recursive: true, encoding: 'utf8' }).filter(
    (file) => file.endsWith('.tsx') && !file.endsWith('.test.tsx') && file !== DEVELOPERS_ONLY,
  );
  for (const file of files) {
    const text = readFileSync(path.join('src', file), 'utf8');
    const source = ts.createSourceFile(file, text, ts.ScriptTarget.Latest, true, ts.ScriptKind.TSX);
    const visit = (node: ts.Node): void => {
      if (ts.isTaggedTemplateExpression(node) || ts.isImportDeclaration(node)) return;
      if (ts.isCallExpression(node) && ['plural', 'select'].includes(node.expression.getText())) return;
      const isSpoken =
        ts.isJsxAttribute(node) &&
        [
          'label',
          'accessibilityLabel',
          'title',
          'text',
          'description',
          'summary',
          'placeholder',
          'aria-label',
          'aria-valuetext',
        ].includes(node.name.getText());
      const said = ts.isJsxText(node)
        ? node.text
        : isSpoken && node.initializer !== undefined && ts.isStringLiteral(node.initializer)
          ? node.initializer.text
          : ts.isStringLiteralLike(node) && /^[A-Z][a-z]+ [a-z]/.test(node.text)
            ? node.text
            : '';
      if (/[A-Za-z]{2}/.test(said) && !SAME_EVERYWHERE.includes(said.trim()) && !isThrown(node))
        wrong.push(`${file}: ${said.trim()}`);
      ts.forEachChild(node, visit);
    };
    visit(source);
  }
  expect(wrong).toEqual([]);
});

/** What a program is told, and no person reads. */
const isThrown = (node: ts.Node): boolean =>
  ts.isNewExpression(node.parent) && /Error$/.test(node.parent.expression.getText());

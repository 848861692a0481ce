import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import ts from 'typescript';

/* What stands on the screen, read out of the code: words that took two readings stay away, and what a button is called for the ear begins with what it is called for the eye (WCAG 2.5.3). */

const sources = ['app', 'src', 'core', 'contract', 'server', 'cli'].flatMap((folder) =>
  readdirSync(folder, { recursive: true, encoding: 'utf8' })
    .filter((file) => /\.tsx?$/.test(file) && !/\.test\.|Weights|Kernels/.test(file))
    .map((file) => path.join(folder, file)),
);
const trees = sources.map((file) =>
  ts.createSourceFile(file, readFileSync(file, 'utf8'), ts.ScriptTarget.Latest, true, ts.ScriptKind.TSX),
);

function eachNode(node: ts.Node, visit: (node: ts.Node) => void): void {
  visit(node);
  node.forEachChild((child) => eachNode(child, visit));
}

/** Every text in the code that a person could be shown, with where it stands. */
const texts = trees.flatMap((tree) => {
  const found: { readonly text: string; readonly file: string }[] = [];
  eachNode(tree, (node) => {
    const text =
      ts.isStringLiteralLike(node) ||
      ts.isJsxText(node) ||
      ts.isTemplateHead(node) ||
      ts.isTemplateMiddleOrTemplateTail(node)
        ? node.text.trim().replaceAll(/\s+/g, ' ')
        : '';
    if (text !== '' && !(node.parent !== undefined && ts.isImportDeclaration(node.parent)))
      found.push({ text, file: tree.fileName });
  });
  return found;
});

/** Whole texts, and parts of texts, that nobody should have to read twice. */
const GONE_WHOLE = ['On', 'Near', 'Far', 'Turn', 'Again', 'Bin', 'Level', 'Whole', 'As last', 'Out', 'Breadth'];
/** Of those, what a switch that has two states may say. */
const FINE = [{ text: 'On', file: path.join('src', 'screens', 'SettingsScreen.tsx') }];
const GONE_PARTS = [
  'Take in again',
  'Breadth of the stroke',
  'Keep the mending',
  'Keep the marks',
  'right so',
  'To binding',
  'To the page',
  'To signing in',
  'Goes in as',
  'very file',
  'if you like',
  'Named by its title',
  'By a convention',
  'Back to front',
  'By time shot',
  'Take along',
  'Bring a zip in',
  'was cut off',
  'Nothing lies here',
  'Laying out the desk',
  'One moment',
  'Underline _',
  'Stop .',
  'laid under the pages',
  'still taken, as late',
  'more than hands can do',
  'not good any more',
  'wants another look',
  'to be seen',
];

it.each(GONE_WHOLE)('no button says “%s”', (word) => {
  const where = texts.filter(
    ({ text, file }) => text === word && !FINE.some((fine) => fine.text === text && fine.file === file),
  );
  expect(where).toEqual([]);
});

it.each(GONE_PARTS)('nothing says “%s”', (words) => {
  expect(texts.filter(({ text }) => text.includes(words))).toEqual([]);
});

/** What an attribute says at its beginning, as far as the code alone tells. */
function beginningOf(
  attribute: ts.JsxAttribute | undefined,
): { readonly text: string; readonly isWhole: boolean } | null {
  const value = attribute?.initializer;
  if (value === undefined) return null;
  if (ts.isStringLiteral(value)) return { text: value.text, isWhole: true };
  const expression = ts.isJsxExpression(value) ? value.expression : undefined;
  const inner =
    expression !== undefined && ts.isTaggedTemplateExpression(expression) ? expression.template : expression;
  if (inner === undefined) return null;
  if (ts.isStringLiteralLike(inner)) return { text: inner.text, isWhole: true };
  return ts.isTemplateExpression(inner) ? { text: inner.head.text, isWhole: false } : null;
}

it('every spoken name begins with the label that is seen', () => {
  const wrong: string[] = [];
  let looked = 0;
  for (const tree of trees)
    eachNode(tree, (node) => {
      if (!ts.isJsxSelfClosingElement(node) && !ts.isJsxOpeningElement(node)) return;
      const attribute = (name: string): ts.JsxAttribute | undefined =>
        node.attributes.properties.find(
          (each): each is ts.JsxAttribute => ts.isJsxAttribute(each) && each.name.getText() === name,
        );
      const label = beginningOf(attribute('label'));
      const spoken = beginningOf(attribute('accessibilityLabel'));
      if (label === null || !label.isWhole || label.text === '' || spoken === null) return;
      looked++;
      const begins = spoken.text.toLowerCase();
      if (!begins.startsWith(label.text.toLowerCase()))
        wrong.push(`${tree.fileName}: “${label.text}” is “${spoken.text}”`);
    });
  expect(wrong).toEqual([]);
  expect(looked).toBeGreaterThan(40);
});

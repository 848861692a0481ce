import { PLAIN_BINDING } from '../hand-in/bindSettings';
import { wholePhotoRecipe } from '../recipe/plainRecipe';
import { RECIPE_VERSION } from '../recipe/recipe';
import { bundleOf, readBundle, type BundledHandIn } from './bundle';

const handIn: BundledHandIn = {
  id: 'hand-in-1',
  title: 'Set 4',
  paper: 'a4',
  binding: { ...PLAIN_BINDING, maxBytes: 1e6 },
  assignmentId: 'tides-set-4',
  createdAtMs: 5,
  changedAtMs: 9,
  removedAtMs: null,
  deletedPageIds: [],
  pages: [
    {
      id: 'page-one',
      originalId: 'a'.repeat(64),
      fileName: 'a.jpg',
      width: 300,
      height: 424,
      pdfPage: null,
      takenAtMs: 7,
      leftOut: true,
      removedAtMs: null,
      findings: ['glare'],
      recipe: { ...wholePhotoRecipe(300, 424, 'pencil'), quarterTurns: 1 },
    },
    {
      id: 'page-two',
      originalId: 'b'.repeat(64),
      fileName: 'b.pdf',
      width: 300,
      height: 424,
      pdfPage: 3,
      takenAtMs: null,
      leftOut: false,
      removedAtMs: 8,
      findings: null,
      recipe: wholePhotoRecipe(300, 424, 'asshot'),
    },
  ],
  file: {
    path: 'files/a.pdf',
    name: 'a.pdf',
    sha256: 'c'.repeat(64),
    madeFrom: 'd'.repeat(64),
    pageBytes: [10],
    codings: [0],
    boundAtMs: 3,
  },
};
const text = (
  change: (bundle: Record<string, unknown>, first: Record<string, unknown>) => void = () => undefined,
): string => {
  const bundle = JSON.parse(JSON.stringify(bundleOf([handIn]))) as { handIns: Record<string, unknown>[] } & Record<
    string,
    unknown
  >;
  change(bundle, bundle.handIns[0]!);
  return JSON.stringify(bundle);
};

describe('a bundle', () => {
  it('comes back as it was taken along', () => expect(readBundle(text())).toEqual(bundleOf([handIn])));

  it('brings older recipes to today’s version', () => {
    const old = {
      version: 1,
      outline: { corners: wholePhotoRecipe(300, 424, 'daylight').outline.corners, by: 'hand', confidence: 1 },
      quarterTurns: 2,
      finish: 'daylight',
    };
    const read = readBundle(text((_, first) => ((first.pages as Record<string, unknown>[])[0]!.recipe = old)));
    expect(read.handIns[0]!.pages[0]!.recipe).toMatchObject({
      version: RECIPE_VERSION,
      quarterTurns: 2,
      kind: 'sheet',
    });
  });

  it.each<[string, string, string]>([
    ['no JSON', '{', 'cannot be read'],
    ['another zip', '{"name":"x"}', 'was not exported from Fotoplan'],
    ['nothing', 'null', 'was not exported from Fotoplan'],
    ['a newer one', text((bundle) => (bundle.version = 2)), 'newer Fotoplan'],
    ['one without a title', text((_, first) => (first.title = '')), 'no usable title'],
    [
      'a page without a photo',
      text((_, first) => ((first.pages as Record<string, unknown>[])[0]!.originalId = '../x')),
      'a page without a photo',
    ],
    [
      'a page that is too large',
      text((_, first) => ((first.pages as Record<string, unknown>[])[0]!.width = 1e9)),
      'without a size',
    ],
  ])('of %s is refused, saying so', (_, json, says) => {
    expect(() => readBundle(json)).toThrow(says);
  });
});

import { zipSync, type Zippable } from 'fflate';
import { PLAIN_BINDING } from '../hand-in/bindSettings';
import { wholePhotoRecipe } from '../recipe/plainRecipe';
import { BUNDLE_INDEX, bundleOf, originalPath, type BundledHandIn } from './bundle';
import { unpackBundle, type ZipFile } from './unpackBundle';

const photoId = 'a'.repeat(64);
const page = {
  id: 'page-one',
  originalId: photoId,
  fileName: 'plate.jpg',
  width: 300,
  height: 424,
  pdfPage: null,
  takenAtMs: null,
  leftOut: false,
  removedAtMs: null,
  findings: null,
  recipe: wholePhotoRecipe(300, 424, 'daylight'),
};
const handIn: BundledHandIn = {
  id: 'hand-in-1',
  title: 'Set 4',
  paper: 'a4',
  binding: PLAIN_BINDING,
  assignmentId: null,
  createdAtMs: 5,
  changedAtMs: 9,
  removedAtMs: null,
  deletedPageIds: [],
  pages: [page],
  file: {
    path: 'files/1/a.pdf',
    name: 'a.pdf',
    sha256: 'c'.repeat(64),
    madeFrom: 'd'.repeat(64),
    pageBytes: [1],
    codings: [0],
    boundAtMs: 1,
  },
};
const index = new TextEncoder().encode(JSON.stringify(bundleOf([handIn])));
const photo = new Uint8Array(30_000).map((_, i) => i * 7);
const pdf = new TextEncoder().encode('%PDF-1.7');

/** A zip that comes in pieces of so many bytes. */
function zipOf(entries: Zippable, pieceBytes = 1000): ZipFile {
  const bytes = zipSync(entries);
  return {
    size: bytes.length,
    stream: () =>
      new ReadableStream({
        start(pieces) {
          for (let at = 0; at < bytes.length; at += pieceBytes) pieces.enqueue(bytes.slice(at, at + pieceBytes));
          pieces.close();
        },
      }),
  };
}
const unpacked = async (zip: ZipFile) => {
  const taken: [string, number, string | null][] = [];
  await unpackBundle(zip, (path, bytes, fileName) => taken.push([path, bytes.length, fileName]));
  return taken;
};
const all = [
  [originalPath(photoId), photo.length, 'plate.jpg'],
  ['files/1/a.pdf', pdf.length, null],
];

it.each([
  ['the index first', [BUNDLE_INDEX, originalPath(photoId), 'files/1/a.pdf']],
  ['the index last', [originalPath(photoId), 'files/1/a.pdf', BUNDLE_INDEX]],
])('gives everything that is named, with %s', async (_case, order) => {
  const files: Record<string, Uint8Array> = {
    [BUNDLE_INDEX]: index,
    [originalPath(photoId)]: photo,
    'files/1/a.pdf': pdf,
  };
  for (const pieceBytes of [50, 1_000_000])
    expect(await unpacked(zipOf(Object.fromEntries(order.map((name) => [name, files[name]!])), pieceBytes))).toEqual(
      all,
    );
});

it('never unpacks what is not named', async () => {
  const zip = zipOf({
    'other/large': new Uint8Array(60_000_000),
    [BUNDLE_INDEX]: index,
    [originalPath(photoId)]: photo,
    'files/1/a.pdf': pdf,
  });
  expect(await unpacked(zip)).toEqual(all);
});

it.each<[string, Zippable, RegExp]>([
  ['without an index', { [originalPath(photoId)]: photo }, /was not exported from Fotoplan/],
  ['without a photo', { [BUNDLE_INDEX]: index, 'files/1/a.pdf': pdf }, /“plate.jpg” is missing/],
  [
    'with a photo larger than any',
    { [BUNDLE_INDEX]: index, [originalPath(photoId)]: new Uint8Array(41_000_000) },
    /larger than any photo/,
  ],
  [
    'that unpacks to far more than it is',
    { [BUNDLE_INDEX]: index, 'files/1/a.pdf': new Uint8Array(100_000_000), [originalPath(photoId)]: photo },
    /larger than any photo/,
  ],
])('refuses a zip %s', async (_case, entries, says) => {
  await expect(unpacked(zipOf(entries, 100_000))).rejects.toThrow(says);
});

it.each([
  ['words', new TextEncoder().encode('no zip at all')],
  ['nothing', new Uint8Array(0)],
  ['half of one', zipSync({ [BUNDLE_INDEX]: index }).slice(0, 200)],
])('refuses %s', async (_case, bytes) => {
  await expect(unpacked({ size: bytes.length, stream: () => new Blob([bytes]).stream() })).rejects.toMatchObject({
    code: 'BUNDLE_INVALID',
  });
});

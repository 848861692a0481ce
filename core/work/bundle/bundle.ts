import { FotoplanError } from '../../errors';
import { readBindSettings } from '../hand-in/bindSettings';
import type { HandIn, Page } from '../hand-in/handIn';
import { readFindings } from '../hand-in/readHandIn';
import { PAPERS, type Paper } from '../paper/paperSize';
import { outlineProblem, readRecipe } from '../recipe/recipe';

/*
 * Hand-ins taken along as a plain zip, described in docs/bundle.md: fotoplan.json says what they are, originals/ has each photo
 * as it came under its SHA-256, files/ the bound PDFs.
 */

export const BUNDLE_FORMAT = 'fotoplan-bundle';
export const BUNDLE_VERSION = 1;
export const BUNDLE_INDEX = 'fotoplan.json';

/** Where an original lies in a bundle. */
export const originalPath = (originalId: string): string => `originals/${originalId}`;

/** A bound file that comes along, with what it was made from. */
export interface BundledFile {
  readonly path: string;
  readonly name: string;
  readonly sha256: string;
  readonly madeFrom: string;
  readonly pageBytes: readonly number[];
  readonly codings: readonly number[];
  readonly boundAtMs: number;
}

export interface BundledHandIn extends HandIn {
  readonly file: BundledFile | null;
}

export interface Bundle {
  readonly format: typeof BUNDLE_FORMAT;
  readonly version: number;
  readonly handIns: readonly BundledHandIn[];
}

/** A bundle in today’s version. */
export const bundleOf = (handIns: readonly BundledHandIn[]): Bundle => ({
  format: BUNDLE_FORMAT,
  version: BUNDLE_VERSION,
  handIns,
});

/** Hand-ins with what was bound of them last, each file under a path of its own. */
export const withFiles = (
  handIns: readonly HandIn[],
  files: readonly (Omit<BundledFile, 'path'> | null | undefined)[],
): readonly BundledHandIn[] =>
  handIns.map((handIn, n) => {
    const file = files[n];
    if (file === null || file === undefined) return { ...handIn, file: null };
    const { name, sha256, madeFrom, pageBytes, codings, boundAtMs } = file;
    return {
      ...handIn,
      file: { path: `files/${n + 1}/${name}`, name, sha256, madeFrom, pageBytes, codings, boundAtMs },
    };
  });

const SHA256 = /^[0-9a-f]{64}$/;
const isCount = (value: unknown, most: number): value is number =>
  Number.isInteger(value) && (value as number) >= 0 && (value as number) <= most;

/**
 * Reads what a bundle says of itself, from any version so far; recipes come to today's version.
 * @param text - fotoplan.json
 * @throws FotoplanError BUNDLE_INVALID with what is wrong, or RECIPE_INVALID
 */
export function readBundle(text: string): Bundle {
  let read: Partial<Bundle>;
  try {
    read = JSON.parse(text) as Partial<Bundle>;
  } catch (cause) {
    throw new FotoplanError(
      'BUNDLE_INVALID',
      'This zip’s fotoplan.json cannot be read. Export the hand-ins once more.',
      {},
      { cause },
    );
  }
  if (read === null || typeof read !== 'object' || read.format !== BUNDLE_FORMAT || !Array.isArray(read.handIns))
    throw new FotoplanError('BUNDLE_INVALID', 'This zip was not exported from Fotoplan. Choose one that was.');
  if (!isCount(read.version, BUNDLE_VERSION) || read.version < 1)
    throw new FotoplanError(
      'BUNDLE_INVALID',
      'This zip was made by a newer Fotoplan. Reload to get it, then import the zip.',
    );
  return bundleOf((read.handIns as readonly Partial<BundledHandIn>[]).map(readHandIn));
}

function readHandIn(stored: Partial<BundledHandIn>): BundledHandIn {
  const wrong = (what: string): FotoplanError =>
    new FotoplanError('BUNDLE_INVALID', `A hand-in in this zip ${what}. Export it once more.`);
  const { title, paper, binding, assignmentId, createdAtMs, changedAtMs, pages, file } = stored;
  if (typeof title !== 'string' || title === '' || title.length > 120) throw wrong('has no usable title');
  if (!PAPERS.includes(paper as Paper)) throw wrong('has a paper that is not known');
  if (!Array.isArray(pages) || pages.length > 5000) throw wrong('has no list of pages');
  return {
    id: String(stored.id),
    title,
    paper: paper as Paper,
    binding: readBindSettings(binding),
    assignmentId: typeof assignmentId === 'string' ? assignmentId : null,
    createdAtMs: isCount(createdAtMs, Number.MAX_SAFE_INTEGER) ? createdAtMs : 0,
    changedAtMs: isCount(changedAtMs, Number.MAX_SAFE_INTEGER) ? changedAtMs : 0,
    removedAtMs: null,
    deletedPageIds: [],
    pages: (pages as readonly BundledPage[]).map((page) => readPage(page, wrong)),
    file: file === null || file === undefined ? null : readFile(file, wrong),
  };
}

/** Until pages told when they were deleted, they told only that they were. */
type BundledPage = Partial<Page> & { readonly removed?: boolean };

function readPage(page: BundledPage, wrong: (what: string) => FotoplanError): Page {
  const { originalId, fileName, width, height, pdfPage, takenAtMs } = page;
  if (typeof originalId !== 'string' || !SHA256.test(originalId)) throw wrong('has a page without a photo');
  if (!isCount(width, 30_000) || !isCount(height, 30_000) || width < 1 || height < 1)
    throw wrong('has a page without a size');
  const recipe = readRecipe(page.recipe);
  if (outlineProblem(recipe.outline.corners, width, height, recipe.outline.bends) !== null)
    throw wrong('has a page whose outline cannot be');
  return {
    id: String(page.id),
    originalId,
    fileName: typeof fileName === 'string' && fileName !== '' ? fileName.slice(0, 255) : 'photo',
    width,
    height,
    pdfPage: isCount(pdfPage, 5000) ? pdfPage : null,
    takenAtMs: isCount(takenAtMs, Number.MAX_SAFE_INTEGER) ? takenAtMs : null,
    recipe,
    leftOut: page.leftOut === true,
    removedAtMs: isCount(page.removedAtMs, Number.MAX_SAFE_INTEGER)
      ? page.removedAtMs
      : page.removed === true
        ? 0
        : null,
    findings: readFindings(page.findings),
  };
}

function readFile(file: BundledFile, wrong: (what: string) => FotoplanError): BundledFile {
  const { path, name, sha256, madeFrom, pageBytes, codings, boundAtMs } = file;
  const areCounts = (list: unknown): list is number[] => Array.isArray(list) && list.every((n) => isCount(n, 1e9));
  if (
    typeof path !== 'string' ||
    typeof name !== 'string' ||
    !SHA256.test(sha256) ||
    !SHA256.test(madeFrom) ||
    !areCounts(pageBytes) ||
    !areCounts(codings) ||
    !isCount(boundAtMs, Number.MAX_SAFE_INTEGER)
  )
    throw wrong('has a bound file that is not described');
  return { path, name, sha256, madeFrom, pageBytes, codings, boundAtMs };
}

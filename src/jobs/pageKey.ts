import { sha256 } from '@noble/hashes/sha2';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils';
import type { Page } from '../../core/work/hand-in/handIn';
import type { Recipe } from '../../core/work/recipe/recipe';

type Pictured = Pick<Page, 'originalId' | 'pdfPage'>;

const short = (parts: readonly unknown[]): string =>
  bytesToHex(sha256(utf8ToBytes(JSON.stringify(parts)))).slice(0, 32);

/** What a page looks like but for its light: another outline, turn or mend makes it another page to read and to compare. */
export const shapeKey = ({
  originalId,
  pdfPage,
  recipe: { outline, quarterTurns, mends },
}: Pictured & { readonly recipe: Recipe }): string =>
  short([originalId, pdfPage, outline.corners, outline.bends, outline.lines, quarterTurns, mends]);

/** What a page looks like under its marks, which lie on top as vectors; with no recipe, the photo itself. */
export const lookKey = ({ originalId, pdfPage }: Pictured, recipe: Recipe | null): string =>
  short([originalId, pdfPage, recipe === null ? null : { ...recipe, marks: [] }]);

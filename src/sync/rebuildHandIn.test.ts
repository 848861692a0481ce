import { PLAIN_BINDING } from '../../core/handIn/bindSettings';
import type { HandIn } from '../../core/handIn/handIn';
import { applyOperation } from '../../core/handIn/operation';
import { wholePhotoRecipe } from '../../core/recipe/plainRecipe';
import { rebuildHandIn } from './rebuildHandIn';

describe('sending a whole hand-in again', () => {
  it('gives a server that does not know it the same hand-in, each original once', () => {
    const page = (n: number, originalId: string, removed: boolean): HandIn['pages'][number] => ({ id: `page-${n}`, originalId, fileName: `${n}.jpg`, width: 100, height: 141, pdfPage: n === 3 ? 2 : null, takenAtMs: null, leftOut: false, recipe: wholePhotoRecipe(100, 141, 'daylight'), removed });
    const handIn: HandIn = { id: 'hand-in-1', title: 'Set 4', paper: 'a4', binding: PLAIN_BINDING, assignmentId: null, createdAtMs: 5, changedAtMs: 9, removed: false, pages: [page(1, 'a', false), page(2, 'b', true), page(3, 'a', false)] };
    const items = rebuildHandIn(handIn);
    expect(items.flatMap((item) => (item.kind === 'original' ? [item.originalId] : []))).toEqual(['a', 'b']);
    const rebuilt = items.reduce<HandIn | null>((state, item) => (item.kind === 'operation' ? applyOperation(state, item.operation) : state), null);
    expect(rebuilt).toEqual(handIn);
  });
});

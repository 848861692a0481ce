import { msg } from '@lingui/core/macro';
import type { MessageDescriptor } from '@lingui/core';
import type { EdgesProblem } from './useEdgesDraft';

/** Each names the fix. */
export const EDGES_WORDS: Readonly<Record<EdgesProblem, MessageDescriptor>> = {
  wouldCross: msg`The sides would cross each other. Move it the other way.`,
  noPlace: msg`A corner has no place. Take the whole photo and set the corners again.`,
  outside: msg`A corner lies far outside the photo. Move it back in.`,
  crossed: msg`The sides cross each other. Move the corner back to its own side.`,
  tooSmall: msg`The outline is too small. Move the corners apart.`,
  tooBent: msg`The side is bent too far. Move its middle back towards the line.`,
};

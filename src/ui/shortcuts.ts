import type { MessageDescriptor } from '@lingui/core';
import { msg } from '@lingui/core/macro';

/** The single keys of a wide screen: `key` is what the keyboard event calls it, `shown` what stands on the keyboard. */
export const SHORTCUTS = {
  previousPage: { key: 'PageUp', shown: 'Page ↑' },
  nextPage: { key: 'PageDown', shown: 'Page ↓' },
  edges: { key: 'e', shown: 'E' },
  mend: { key: 'm', shown: 'M' },
  marks: { key: 'w', shown: 'W' },
  rotate: { key: 't', shown: 'T' },
  leaveOut: { key: 'o', shown: 'O' },
  delete: { key: 'Delete', shown: 'Del' },
  choose: { key: 'c', shown: 'C' },
  read: { key: 'r', shown: 'R' },
  list: { key: '?', shown: '?' },
  find: { key: 'f', shown: 'F' },
  zoomIn: { key: '+', shown: '+' },
  zoomOut: { key: '-', shown: '−' },
  undo: { key: 'Control+z', shown: 'Ctrl Z' },
  redo: { key: 'Control+Shift+z', shown: 'Ctrl ⇧ Z' },
} as const;
export type Shortcut = keyof typeof SHORTCUTS;

/** What every key does, in the order of the list that `?` opens. */
export const KEY_LIST: readonly (readonly [string | MessageDescriptor, MessageDescriptor])[] = [
  [`${SHORTCUTS.previousPage.shown}, ${SHORTCUTS.nextPage.shown}`, msg`the page before, the page after`],
  [SHORTCUTS.edges.shown, msg`edges`],
  [SHORTCUTS.mend.shown, msg`mend`],
  [SHORTCUTS.marks.shown, msg`write on the page`],
  [SHORTCUTS.rotate.shown, msg`rotate to the right`],
  [SHORTCUTS.leaveOut.shown, msg`leave out of the file, or include again`],
  [SHORTCUTS.delete.shown, msg`delete the page`],
  [SHORTCUTS.choose.shown, msg`choose several pages`],
  [msg`Shift or Ctrl and click`, msg`choose the pages up to this one, or this one too`],
  [SHORTCUTS.read.shown, msg`read through`],
  [msg`Space, arrows, Space`, msg`on a page’s handle: lift, move, lay down`],
  [msg`Arrow keys`, msg`move a corner, a side, a slider or the brush; with Shift further`],
  ['Alt', msg`held while dragging a corner: no snapping`],
  [SHORTCUTS.find.shown, msg`find words while reading`],
  [`${SHORTCUTS.zoomIn.shown} ${SHORTCUTS.zoomOut.shown}`, msg`zoom in, zoom out`],
  [`${SHORTCUTS.undo.shown}, ${SHORTCUTS.redo.shown}`, msg`undo, redo`],
  ['Escape', msg`close what is open`],
  [SHORTCUTS.list.shown, msg`this list`],
];

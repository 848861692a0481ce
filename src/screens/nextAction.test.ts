import { nextAction, type NextAction, type NextState } from './nextAction';

const PAGES = { stage: 'pages', pages: 3, toLookAt: 0 } as const;
const PAGE = {
  stage: 'page',
  tool: null,
  from: null,
  edgesUnsure: false,
  turnUnsure: false,
  pageAfter: 2,
  pages: 3,
} as const;
const BIND = {
  stage: 'bind',
  pages: 3,
  pending: false,
  binding: null,
  file: 'none',
  hasAssignment: false,
} as const;
const HAND_IN = {
  stage: 'handIn',
  pages: 3,
  sending: null,
  binding: null,
  received: false,
  handedInBefore: false,
  file: 'fresh',
  canBind: false,
  ready: false,
  hasAssignment: true,
  fix: null,
} as const;

const TABLE: readonly (readonly [string, NextState, NextAction])[] = [
  ['no pages yet', { ...PAGES, pages: 0 }, { does: 'shoot' }],
  ['pages to look at', { ...PAGES, toLookAt: 2 }, { does: 'lookAtPages', count: 2 }],
  ['pages that are fine', PAGES, { does: 'bind', count: 3, again: false }],

  ['edges open', { ...PAGE, tool: 'edges', from: 'read', edgesUnsure: true }, { does: 'saveEdges' }],
  ['mending open', { ...PAGE, tool: 'mend' }, { does: 'finishTool' }],
  ['opened from the camera', { ...PAGE, from: 'shoot', edgesUnsure: true }, { does: 'backToCamera' }],
  ['opened while reading', { ...PAGE, from: 'read', turnUnsure: true }, { does: 'backToReading' }],
  ['unsure edges before an unsure turn', { ...PAGE, edgesUnsure: true, turnUnsure: true }, { does: 'confirmEdges' }],
  ['an unsure turn', { ...PAGE, turnUnsure: true }, { does: 'confirmTurn' }],
  ['a page behind it', PAGE, { does: 'openPage', number: 2 }],
  ['the last page', { ...PAGE, pageAfter: null }, { does: 'bind', count: 3, again: false }],

  ['binding', { ...BIND, binding: 0.4, pending: true }, { does: 'wait', for: 'binding', fraction: 0.4 }],
  ['paper still being found', { ...BIND, pending: true, file: 'fresh' }, { does: 'wait', for: 'paper' }],
  ['nothing to bind', { ...BIND, pages: 0 }, { does: 'addPhotos' }],
  ['no file yet', BIND, { does: 'bind', count: 3, again: false }],
  ['an old file', { ...BIND, file: 'stale' }, { does: 'bind', count: 3, again: true }],
  ['a file for nobody yet', { ...BIND, file: 'fresh' }, { does: 'download' }],
  ['a file for an assignment', { ...BIND, file: 'fresh', hasAssignment: true }, { does: 'goToHandIn' }],

  ['sending', { ...HAND_IN, sending: 0.5, ready: true }, { does: 'wait', for: 'sending', fraction: 0.5 }],
  ['the office looking', { ...HAND_IN, sending: 'office' }, { does: 'wait', for: 'office' }],
  ['binding in place', { ...HAND_IN, binding: 0 }, { does: 'wait', for: 'binding', fraction: 0 }],
  ['received', { ...HAND_IN, received: true, ready: true }, { does: 'seeSubmission' }],
  ['ready', { ...HAND_IN, ready: true }, { does: 'handIn', again: false }],
  ['ready once more', { ...HAND_IN, ready: true, handedInBefore: true }, { does: 'handIn', again: true }],
  [
    'received, and changed since',
    { ...HAND_IN, received: true, file: 'stale', canBind: true },
    { does: 'bind', count: 3, again: true },
  ],
  ['nothing bound', { ...HAND_IN, file: 'none', canBind: true }, { does: 'bind', count: 3, again: false }],
  ['something to put right', { ...HAND_IN, fix: 'account' }, { does: 'fix', to: 'account' }],
  ['nothing chosen', { ...HAND_IN, hasAssignment: false }, { does: 'chooseAssignment' }],
  ['points to confirm', HAND_IN, { does: 'confirmPoints' }],
];

test.each(TABLE)('%s', (_, state, action) => expect(nextAction(state)).toEqual(action));

import type { ReadyFix } from '../../core/work/ready/readyCheck';

/** What the next thing is decided by, for each stage of a hand-in. */
export type NextState =
  | { readonly stage: 'pages'; readonly pages: number; readonly toLookAt: number }
  | {
      readonly stage: 'page';
      /** The tool that takes up the page's place. */
      readonly tool: 'edges' | 'mend' | 'marks' | null;
      readonly from: 'shoot' | 'read' | null;
      readonly edgesUnsure: boolean;
      readonly turnUnsure: boolean;
      /** The number of the page behind this one. */
      readonly pageAfter: number | null;
      readonly pages: number;
    }
  | {
      readonly stage: 'bind';
      readonly pages: number;
      /** Some page's paper is still being found. */
      readonly pending: boolean;
      /** From 0 to 1 while the file is made. */
      readonly binding: number | null;
      readonly file: FileState;
      readonly hasAssignment: boolean;
    }
  | {
      readonly stage: 'handIn';
      readonly pages: number;
      /** From 0 to 1 while the file goes to the office; `office` once it looks at it. */
      readonly sending: number | 'office' | null;
      readonly binding: number | null;
      /** This very file is with the office. */
      readonly received: boolean;
      readonly handedInBefore: boolean;
      readonly file: FileState;
      /** The only thing wrong with the file is that it is not there, or no longer what the pages are. */
      readonly canBind: boolean;
      readonly ready: boolean;
      readonly hasAssignment: boolean;
      readonly fix: ReadyFix['to'] | null;
    };

/** `stale`: a page or a setting changed after it was made. */
type FileState = 'none' | 'stale' | 'fresh';

export type NextAction =
  | { readonly does: 'wait'; readonly for: 'binding' | 'sending'; readonly fraction: number }
  | { readonly does: 'wait'; readonly for: 'paper' | 'office' }
  | { readonly does: 'lookAtPages'; readonly count: number }
  | { readonly does: 'bind'; readonly count: number; readonly again: boolean }
  | { readonly does: 'openPage'; readonly number: number }
  | { readonly does: 'fix'; readonly to: ReadyFix['to'] }
  | { readonly does: 'handIn'; readonly again: boolean }
  | {
      readonly does:
        | 'shoot'
        | 'addPhotos'
        | 'saveEdges'
        | 'finishTool'
        | 'backToCamera'
        | 'backToReading'
        | 'confirmEdges'
        | 'confirmTurn'
        | 'download'
        | 'goToHandIn'
        | 'seeSubmission'
        | 'chooseAssignment'
        | 'confirmPoints';
    };

/** The one sensible next thing. */
export function nextAction(state: NextState): NextAction {
  switch (state.stage) {
    case 'pages':
      return nextOnPages(state);
    case 'page':
      return nextOnPage(state);
    case 'bind':
      return nextOnBind(state);
    case 'handIn':
      return nextOnHandIn(state);
  }
}

type StateOf<S extends NextState['stage']> = Extract<NextState, { stage: S }>;

function nextOnPages({ pages, toLookAt }: StateOf<'pages'>): NextAction {
  if (pages === 0) return { does: 'shoot' };
  if (toLookAt > 0) return { does: 'lookAtPages', count: toLookAt };
  return { does: 'bind', count: pages, again: false };
}

function nextOnPage({ tool, from, edgesUnsure, turnUnsure, pageAfter, pages }: StateOf<'page'>): NextAction {
  if (tool !== null) return { does: tool === 'edges' ? 'saveEdges' : 'finishTool' };
  if (from === 'shoot') return { does: 'backToCamera' };
  if (from === 'read') return { does: 'backToReading' };
  if (edgesUnsure) return { does: 'confirmEdges' };
  if (turnUnsure) return { does: 'confirmTurn' };
  if (pageAfter !== null) return { does: 'openPage', number: pageAfter };
  return { does: 'bind', count: pages, again: false };
}

function nextOnBind({ pages, pending, binding, file, hasAssignment }: StateOf<'bind'>): NextAction {
  if (binding !== null) return { does: 'wait', for: 'binding', fraction: binding };
  if (pending) return { does: 'wait', for: 'paper' };
  if (pages === 0) return { does: 'addPhotos' };
  if (file === 'fresh') return { does: hasAssignment ? 'goToHandIn' : 'download' };
  return { does: 'bind', count: pages, again: file === 'stale' };
}

function nextOnHandIn(state: StateOf<'handIn'>): NextAction {
  const { sending, binding, received, handedInBefore, file, canBind, ready, hasAssignment, fix, pages } = state;
  if (sending === 'office') return { does: 'wait', for: 'office' };
  if (sending !== null) return { does: 'wait', for: 'sending', fraction: sending };
  if (binding !== null) return { does: 'wait', for: 'binding', fraction: binding };
  if (received && file === 'fresh') return { does: 'seeSubmission' };
  if (ready) return { does: 'handIn', again: handedInBefore };
  if (canBind) return { does: 'bind', count: pages, again: file !== 'none' };
  if (fix !== null) return { does: 'fix', to: fix };
  return { does: hasAssignment ? 'confirmPoints' : 'chooseAssignment' };
}

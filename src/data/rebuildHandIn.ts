import type { HandIn, Page } from '../../core/work/hand-in/handIn';
import { sourceOfPage } from '../../core/work/hand-in/operation';
import type { Change } from './change';

/** The changes after which a page is as it is here. @param afterPageId - the page before it; null where it is the first */
export function rebuildPage(handInId: string, page: Page, atMs: number, afterPageId: string | null): Change[] {
  const { id: pageId, originalId, leftOut, removedAtMs, findings } = page;
  return [
    { kind: 'addPage', handInId, atMs, pageId, ...sourceOfPage(page), afterPageId },
    ...(findings === null ? [] : [{ kind: 'noteFindings', handInId, atMs, pageId, originalId, findings } as const]),
    ...(leftOut ? [{ kind: 'leaveOut', handInId, atMs, pageId, leftOut } as const] : []),
    ...(removedAtMs === null ? [] : [{ kind: 'removePage', handInId, atMs: removedAtMs, pageId } as const]),
  ];
}

/**
 * The changes after which a server that does not know a hand-in has it as it is here. A browser that dies soon after its first
 * start keeps its pages but may lose the cookie that says whose they are; the server then sees somebody new.
 */
export const rebuildHandIn = ({
  id: handInId,
  title,
  paper,
  binding,
  assignmentId,
  createdAtMs,
  changedAtMs,
  removedAtMs,
  pages,
}: HandIn): Change[] => [
  { kind: 'createHandIn', handInId, atMs: createdAtMs, title, paper },
  { kind: 'changeHandIn', handInId, atMs: changedAtMs, binding, assignmentId },
  ...pages.flatMap((page, i) => rebuildPage(handInId, page, changedAtMs, pages[i - 1]?.id ?? null)),
  ...(removedAtMs === null ? [] : [{ kind: 'changeHandIn', handInId, atMs: removedAtMs, removed: true } as const]),
];

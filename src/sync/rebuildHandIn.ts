import { nanoid } from 'nanoid';
import type { HandIn } from '../../core/handIn/handIn';
import { sourceOfPage, type Operation } from '../../core/handIn/operation';
import type { OutboxItem } from '../storage/localDatabase';

/**
 * What to send so that a server which does not know a hand-in has it as it is here. A browser that dies soon after its first
 * start keeps its pages but may lose the cookie that says whose they are; the server then sees somebody new.
 */
export function rebuildHandIn({ id: handInId, title, paper, binding, assignmentId, createdAtMs, changedAtMs, pages }: HandIn): OutboxItem[] {
  const operations: Operation[] = [{ kind: 'createHandIn', id: nanoid(), handInId, atMs: createdAtMs, title, paper }];
  operations.push({ kind: 'changeHandIn', id: nanoid(), handInId, atMs: changedAtMs, binding, assignmentId });
  for (const page of pages) {
    const { id: pageId, leftOut, removed } = page;
    operations.push({ kind: 'addPage', id: nanoid(), handInId, atMs: changedAtMs, pageId, ...sourceOfPage(page) });
    if (leftOut) operations.push({ kind: 'leaveOut', id: nanoid(), handInId, atMs: changedAtMs, pageId, leftOut });
    if (removed) operations.push({ kind: 'removePage', id: nanoid(), handInId, atMs: changedAtMs, pageId });
  }
  const originals = [...new Set(pages.map(({ originalId }) => originalId))].map((originalId): OutboxItem => ({ kind: 'original', originalId }));
  return [...originals, ...operations.map((operation): OutboxItem => ({ kind: 'operation', operation }))];
}

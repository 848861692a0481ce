import { boundPages, type HandIn, type Page } from '../handIn/handIn';
import type { ShotFinding } from '../quality/shotFindings';
import { readableBytes } from '../readableBytes';
import { isPending, needsEdgeCheck, needsTurnCheck } from '../recipe/recipe';
import { standing, type Assignment, type OfficeAccount, type Receipt } from './assignment';
import { brokenRules, type BrokenRule } from './rules';

/** Where the fix for a finding is. */
export type ReadyFix =
  | { readonly to: 'shoot' | 'pages' | 'bind' | 'place' | 'account' }
  | { readonly to: 'page'; readonly pageId: string }
  | { readonly to: 'again'; readonly pageId: string };

export interface ReadyLine {
  /** The same finding on the same thing has the same key; what changed is asked again. */
  readonly key: string;
  /** stop: it would be refused; doubt: the person may say that it is right so; fine. */
  readonly level: 'stop' | 'doubt' | 'fine';
  readonly says: string;
  readonly why: string;
  readonly fix: ReadyFix | null;
}

export interface ReadyFacts {
  readonly handIn: HandIn;
  readonly nowMs: number;
  /** What is wrong with each page's shot, by page. */
  readonly findings: Readonly<Record<string, readonly ShotFinding[]>>;
  readonly blankPages: readonly string[];
  /** What the order helper says: gaps, repeats, look-alikes; each in one sentence. */
  readonly orderAdvice: readonly string[];
  readonly file: {
    readonly bytes: number;
    readonly fresh: boolean;
    readonly parts: number;
    readonly name: string;
    readonly sha256: string;
  } | null;
  /** The name the assignment's convention gives; null where there is none or too little is known. */
  readonly wantedName: string | null;
  readonly assignment: Assignment | null;
  readonly account: OfficeAccount | null;
  /** Who the profile says hands in. */
  readonly profileNumber: string;
  readonly fields: Readonly<Record<string, string>>;
  /** Handed in before, newest first. */
  readonly receipts: readonly Receipt[];
}

const FINDING_SAYS: Readonly<Record<ShotFinding, readonly [says: string, why: string]>> = {
  blurred: ['is blurred', 'Small writing may not be readable.'],
  cut: ['runs out of its photo', 'Something may be missing at the side.'],
  glare: ['has glare on it', 'What lies under a reflection cannot be brought back.'],
  thumb: ['has a finger on it', 'It covers part of the page. Mend it, or shoot it again.'],
  lowDetail: ['has low detail', 'It was shot from too far away for small print.'],
  dark: ['was shot in the dark', 'Noise may hide faint strokes.'],
};
const FROM_A_TOOL: ReadonlySet<ShotFinding> = new Set(['thumb', 'cut']);

const pagesWord = (n: number): string => (n === 1 ? '1 page' : `${n} pages`);

/**
 * Everything that stands between a hand-in and an accepted submission, worst first; a line for each thing that was looked
 * at, so that what is fine is said too. Without an assignment only the pages and the file are looked at.
 */
export function readyCheck(facts: ReadyFacts): readonly ReadyLine[] {
  const lines = [
    ...pageCount(facts),
    ...pageLines(facts),
    ...orderLines(facts),
    ...fileLines(facts),
    ...officeLines(facts),
  ];
  const rank = { stop: 0, doubt: 1, fine: 2 } as const;
  return lines
    .map((line, i) => ({ line, i }))
    .sort((a, b) => rank[a.line.level] - rank[b.line.level] || a.i - b.i)
    .map(({ line }) => line);
}

/** Nothing stops it, and every doubt was said to be right so. */
export const isReady = (lines: readonly ReadyLine[], accepted: readonly string[]): boolean =>
  lines.every(({ level, key }) => level === 'fine' || (level === 'doubt' && accepted.includes(key)));

function pageCount({ handIn, assignment }: ReadyFacts): ReadyLine[] {
  const count = boundPages(handIn).length;
  if (count === 0)
    return [
      {
        key: 'no-pages',
        level: 'stop',
        says: 'There are no pages yet.',
        why: 'An empty file is not taken.',
        fix: { to: 'shoot' },
      },
    ];
  if (assignment === null)
    return [{ key: 'pages', level: 'fine', says: `${pagesWord(count)} in the file`, why: '', fix: null }];
  const { leastPages, mostPages } = assignment;
  const asked = leastPages === mostPages ? pagesWord(leastPages) : `${leastPages} to ${mostPages} pages`;
  if (count < leastPages || count > mostPages)
    return [
      {
        key: `count ${count}`,
        level: 'doubt',
        says: `${pagesWord(count)}, and ${asked} are asked for.`,
        why: count < leastPages ? 'A page may be missing.' : 'A page may be there twice.',
        fix: count < leastPages ? { to: 'shoot' } : { to: 'pages' },
      },
    ];
  return [{ key: 'count', level: 'fine', says: `${pagesWord(count)}, as asked for`, why: '', fix: null }];
}

function pageLines(facts: ReadyFacts): ReadyLine[] {
  const pages = boundPages(facts.handIn);
  const lines = pages.flatMap((page, i) => onePage(facts, page, i + 1));
  return lines.length > 0 || pages.length === 0
    ? lines
    : [{ key: 'shots', level: 'fine', says: 'Every page is sharp, whole, upright and flat', why: '', fix: null }];
}

function onePage({ findings, blankPages }: ReadyFacts, page: Page, number: number): ReadyLine[] {
  const { id: pageId, recipe, originalId } = page;
  if (isPending(recipe))
    return [
      {
        key: `pending ${pageId}`,
        level: 'stop',
        says: `Page ${number} is still being looked at.`,
        why: 'Its paper has not been found yet.',
        fix: { to: 'page', pageId },
      },
    ];
  const lines: ReadyLine[] = [];
  const doubt = (what: string, says: string, why: string, fix: ReadyFix): void =>
    void lines.push({ key: `${what} ${pageId} ${originalId}`, level: 'doubt', says, why, fix });
  if (needsEdgeCheck(recipe))
    doubt(
      'edges',
      `The edges of page ${number} are not sure.`,
      'Part of the page may be cut off, or the desk may show.',
      { to: 'page', pageId },
    );
  if (needsTurnCheck(recipe))
    doubt('turn', `Page ${number} may not be upright.`, 'A reader would have to turn their head.', {
      to: 'page',
      pageId,
    });
  if (blankPages.includes(pageId))
    doubt('blank', `Page ${number} looks blank.`, 'It may have been shot by mistake.', { to: 'page', pageId });
  const marked = recipe.mends.length > 0;
  for (const finding of findings[pageId] ?? []) {
    if (finding === 'thumb' && marked) continue;
    const [says, why] = FINDING_SAYS[finding];
    doubt(
      finding,
      `Page ${number} ${says}.`,
      why,
      FROM_A_TOOL.has(finding) ? { to: 'page', pageId } : { to: 'again', pageId },
    );
  }
  return lines;
}

const orderLines = ({ orderAdvice, handIn }: ReadyFacts): ReadyLine[] =>
  orderAdvice.length > 0
    ? orderAdvice.map((says) => ({
        key: `order ${says} ${boundPages(handIn)
          .map(({ id }) => id)
          .join()}`,
        level: 'doubt' as const,
        says,
        why: 'A page may be missing, there twice, or out of its place.',
        fix: { to: 'pages' as const },
      }))
    : boundPages(handIn).length > 1
      ? [{ key: 'order', level: 'fine', says: 'Nothing strange about the order', why: '', fix: null }]
      : [];

const valid = ({ receipts }: ReadyFacts): readonly Receipt[] => receipts.filter(({ withdrawn }) => !withdrawn);

function brokenOf(facts: ReadyFacts): readonly BrokenRule[] {
  const { assignment, file, wantedName, fields, nowMs } = facts;
  if (assignment !== null)
    return brokenRules({ file, wantedName, fields, attemptsUsed: valid(facts).length, nowMs }, assignment);
  return file !== null && wantedName !== null && wantedName !== file.name ? [{ rule: 'name', wanted: wantedName }] : [];
}

function fileLines(facts: ReadyFacts): ReadyLine[] {
  const { handIn, file, assignment } = facts;
  if (boundPages(handIn).length === 0) return [];
  if (file === null || !file.fresh)
    return [
      {
        key: 'bind',
        level: 'stop',
        says: file === null ? 'The file has not been bound yet.' : 'Something changed since the file was bound.',
        why: 'The file must match your pages.',
        fix: { to: 'bind' },
      },
    ];
  const lines: ReadyLine[] = [];
  const broken = brokenOf(facts);
  const name = broken.find((each) => each.rule === 'name');
  if (file.parts > 1)
    lines.push({
      key: 'parts',
      level: 'stop',
      says: `The file came out in ${file.parts} parts.`,
      why: 'The course office takes one file. Choose Press for some pages, or leave pages out.',
      fix: { to: 'bind' },
    });
  if (assignment !== null && broken.some(({ rule }) => rule === 'size'))
    lines.push({
      key: 'size',
      level: 'stop',
      says: `The file has ${readableBytes(file.bytes)}, and ${readableBytes(assignment.maxBytes)} is the limit.`,
      why: 'It would be refused. Set the limit and bind again: pages get smaller, not fewer.',
      fix: { to: 'bind' },
    });
  else
    lines.push({
      key: 'size',
      level: 'fine',
      says:
        assignment === null
          ? `One PDF, ${readableBytes(file.bytes)}`
          : `One PDF, ${readableBytes(file.bytes)}, fits the ${readableBytes(assignment.maxBytes)} limit`,
      why: '',
      fix: null,
    });
  if (name !== undefined)
    lines.push({
      key: 'name',
      level: 'stop',
      says: `The file must be called “${name.wanted}”.`,
      why: `It is called “${file.name}” and would be refused.`,
      fix: { to: 'bind' },
    });
  else lines.push({ key: 'name', level: 'fine', says: `Named “${file.name}”`, why: '', fix: null });
  return lines;
}

function officeLines(facts: ReadyFacts): ReadyLine[] {
  const { assignment, account, profileNumber, nowMs, file } = facts;
  if (assignment === null) return [];
  const lines: ReadyLine[] = [];
  const stop = (key: string, says: string, why: string, to: 'place' | 'account'): void =>
    void lines.push({ key, level: 'stop', says, why, fix: { to } });
  const doubt = (key: string, says: string, why: string): void =>
    void lines.push({ key, level: 'doubt', says, why, fix: { to: 'place' } });
  const broken = brokenOf(facts);
  if (broken.some(({ rule }) => rule === 'closed'))
    stop(
      'closed',
      `“${assignment.title}” is closed.`,
      'The office takes nothing more for it. Write to the course, or choose another assignment.',
      'place',
    );
  else if (standing(assignment, nowMs) === 'late')
    doubt(
      `late ${assignment.id}`,
      'The deadline has passed. It will be accepted as late.',
      'Late work may lose marks.',
    );
  else lines.push({ key: 'due', level: 'fine', says: 'In time', why: '', fix: null });
  if (account === null)
    stop('account', 'You are not signed in at the course office.', 'It must know whose work this is.', 'account');
  else if (profileNumber !== '' && profileNumber !== account.number)
    doubt(
      `account ${account.id}`,
      `This would go in as ${account.first} ${account.family}, ${account.number}.`,
      `Your profile says ${profileNumber}: this may be another person’s account.`,
    );
  else
    lines.push({
      key: 'account',
      level: 'fine',
      says: `Submitting as ${account.first} ${account.family}, ${account.number}`,
      why: '',
      fix: null,
    });
  for (const each of broken)
    if (each.rule === 'field')
      stop(`field ${each.key}`, `${each.label} is missing.`, 'The office asks for it with the file.', 'place');
  const [last] = valid(facts);
  if (broken.some(({ rule }) => rule === 'attempts'))
    stop(
      'attempts',
      assignment.attempts === 1
        ? 'It was handed in already, and only once is allowed.'
        : `All ${assignment.attempts} attempts are used.`,
      'Withdraw the last one first, while there is time.',
      'place',
    );
  if (file !== null && last?.sha256 === file.sha256)
    doubt(`same ${file.sha256}`, 'This file was handed in already.', `Receipt ${last.number}. Nothing changed since.`);
  return lines;
}

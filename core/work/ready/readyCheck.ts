import type { Advice } from '../order/advise';
import { boundPages, type HandIn, type Page } from '../hand-in/handIn';
import type { ShotFinding } from '../../imaging/quality/shotFindings';
import { isPending, needsEdgeCheck, needsTurnCheck } from '../recipe/recipe';
import { standing, type Assignment, type OfficeAccount, type Receipt } from '../office/assignment';
import { brokenRules, type BrokenRule } from './rules';

/** Where the fix for a finding is. */
export type ReadyFix =
  | { readonly to: 'shoot' | 'pages' | 'bind' | 'place' | 'account' }
  | { readonly to: 'page'; readonly pageId: string }
  | { readonly to: 'again' | 'fill'; readonly pageId: string };

/** What a line is about, as a code and the facts that a sentence about it needs. `number` counts pages of the file from 1. */
export type ReadyPoint =
  | {
      readonly code:
        'noPages' | 'shotsFine' | 'orderFine' | 'notBound' | 'changedSince' | 'inTime' | 'late' | 'noAccount';
    }
  | { readonly code: 'pageCount' | 'pageCountFine' | 'looking'; readonly count: number }
  | {
      readonly code: 'tooFewPages' | 'tooManyPages';
      readonly count: number;
      readonly least: number;
      readonly most: number;
    }
  | { readonly code: 'pending' | 'edgesUnsure' | 'turnUnsure' | 'blank'; readonly number: number }
  | { readonly code: 'finding'; readonly finding: ShotFinding; readonly number: number }
  | { readonly code: 'order'; readonly advice: Advice }
  | { readonly code: 'parts'; readonly parts: number }
  | { readonly code: 'tooLarge' | 'fits'; readonly bytes: number; readonly maxBytes: number }
  | { readonly code: 'size'; readonly bytes: number }
  | { readonly code: 'wrongName'; readonly wanted: string; readonly name: string }
  | { readonly code: 'named'; readonly name: string }
  | { readonly code: 'closed'; readonly title: string }
  | { readonly code: 'otherAccount'; readonly who: string; readonly number: string; readonly profileNumber: string }
  | { readonly code: 'account'; readonly who: string; readonly number: string }
  | { readonly code: 'fieldMissing'; readonly label: string }
  | { readonly code: 'attemptsUsed'; readonly attempts: number }
  | { readonly code: 'sameFile'; readonly receipt: string };

export interface ReadyLine {
  /** The same finding on the same thing has the same key; what changed is asked again. */
  readonly key: string;
  /** stop: it would be refused; doubt: the person may say that it looks fine; wait: more may come; fine. */
  readonly level: 'stop' | 'doubt' | 'wait' | 'fine';
  readonly point: ReadyPoint;
  readonly fix: ReadyFix | null;
}

export interface ReadyFacts {
  readonly handIn: HandIn;
  readonly nowMs: number;
  /** What is wrong with each page's shot, by page. */
  readonly findings: Readonly<Record<string, readonly ShotFinding[]>>;
  readonly blankPages: readonly string[];
  /** Pages whose shot, or whose place in the order, is still being looked at: nothing is said to be fine before. */
  readonly unseenPages: readonly string[];
  /** What the order helper says: gaps, repeats, look-alikes. */
  readonly orderAdvice: readonly Advice[];
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

const FROM_A_TOOL: ReadonlySet<ShotFinding> = new Set(['thumb', 'cut']);

/** What a tool cannot mend wants another photo: of what a reflection hides, beside the first. */
const fixOf = (finding: ShotFinding, pageId: string): ReadyFix =>
  FROM_A_TOOL.has(finding) ? { to: 'page', pageId } : { to: finding === 'glare' ? 'fill' : 'again', pageId };

const line = (level: ReadyLine['level'], key: string, point: ReadyPoint, fix: ReadyFix | null = null): ReadyLine => ({
  key,
  level,
  point,
  fix,
});

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
  const rank = { stop: 0, doubt: 1, wait: 2, fine: 3 } as const;
  return lines
    .map((each, i) => ({ each, i }))
    .sort((a, b) => rank[a.each.level] - rank[b.each.level] || a.i - b.i)
    .map(({ each }) => each);
}

/** What still wants something done or said. */
export const openLines = (lines: readonly ReadyLine[], accepted: readonly string[]): readonly ReadyLine[] =>
  lines.filter(({ level, key }) => level === 'stop' || (level === 'doubt' && !accepted.includes(key)));

/** Nothing stops it, and every doubt was said to be right so. Nobody who is in a hurry has to wait for what may still come. */
export const isReady = (lines: readonly ReadyLine[], accepted: readonly string[]): boolean =>
  openLines(lines, accepted).length === 0;

function pageCount({ handIn, assignment }: ReadyFacts): ReadyLine[] {
  const count = boundPages(handIn).length;
  if (count === 0) return [line('stop', 'no-pages', { code: 'noPages' }, { to: 'shoot' })];
  if (assignment === null) return [line('fine', 'pages', { code: 'pageCount', count })];
  const { leastPages: least, mostPages: most } = assignment;
  if (count < least)
    return [line('doubt', `count ${count}`, { code: 'tooFewPages', count, least, most }, { to: 'shoot' })];
  if (count > most)
    return [line('doubt', `count ${count}`, { code: 'tooManyPages', count, least, most }, { to: 'pages' })];
  return [line('fine', 'count', { code: 'pageCountFine', count })];
}

function pageLines(facts: ReadyFacts): ReadyLine[] {
  const pages = boundPages(facts.handIn);
  const lines = pages.flatMap((page, i) => onePage(facts, page, i + 1));
  const count = pages.filter(({ id, recipe }) => facts.unseenPages.includes(id) && !isPending(recipe)).length;
  if (count > 0) return [...lines, line('wait', 'looking', { code: 'looking', count })];
  return lines.length > 0 || pages.length === 0 ? lines : [line('fine', 'shots', { code: 'shotsFine' })];
}

function onePage({ findings, blankPages }: ReadyFacts, page: Page, number: number): ReadyLine[] {
  const { id: pageId, recipe, originalId } = page;
  const toPage: ReadyFix = { to: 'page', pageId };
  if (isPending(recipe)) return [line('stop', `pending ${pageId}`, { code: 'pending', number }, toPage)];
  const lines: ReadyLine[] = [];
  const doubt = (what: string, point: ReadyPoint, fix: ReadyFix): void =>
    void lines.push(line('doubt', `${what} ${pageId} ${originalId}`, point, fix));
  if (needsEdgeCheck(recipe)) doubt('edges', { code: 'edgesUnsure', number }, toPage);
  if (needsTurnCheck(recipe)) doubt('turn', { code: 'turnUnsure', number }, toPage);
  if (blankPages.includes(pageId)) doubt('blank', { code: 'blank', number }, toPage);
  const marked = recipe.mends.length > 0;
  for (const finding of findings[pageId] ?? []) {
    if (finding === 'thumb' && marked) continue;
    doubt(finding, { code: 'finding', finding, number }, fixOf(finding, pageId));
  }
  return lines;
}

const orderLines = ({ orderAdvice, unseenPages, handIn }: ReadyFacts): ReadyLine[] =>
  orderAdvice.length > 0
    ? orderAdvice.map((advice) =>
        line(
          'doubt',
          `order ${JSON.stringify(advice)} ${boundPages(handIn)
            .map(({ id }) => id)
            .join()}`,
          { code: 'order', advice },
          { to: 'pages' },
        ),
      )
    : boundPages(handIn).length > 1 && unseenPages.length === 0
      ? [line('fine', 'order', { code: 'orderFine' })]
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
  const toBind: ReadyFix = { to: 'bind' };
  if (file === null || !file.fresh)
    return [line('stop', 'bind', { code: file === null ? 'notBound' : 'changedSince' }, toBind)];
  const { bytes, name } = file;
  const broken = brokenOf(facts);
  const wrongName = broken.find((each) => each.rule === 'name');
  return [
    ...(file.parts > 1 ? [line('stop', 'parts', { code: 'parts', parts: file.parts }, toBind)] : []),
    assignment === null
      ? line('fine', 'size', { code: 'size', bytes })
      : broken.some(({ rule }) => rule === 'size')
        ? line('stop', 'size', { code: 'tooLarge', bytes, maxBytes: assignment.maxBytes }, toBind)
        : line('fine', 'size', { code: 'fits', bytes, maxBytes: assignment.maxBytes }),
    wrongName === undefined
      ? line('fine', 'name', { code: 'named', name })
      : line('stop', 'name', { code: 'wrongName', wanted: wrongName.wanted, name }, toBind),
  ];
}

function officeLines(facts: ReadyFacts): ReadyLine[] {
  const { assignment, account, profileNumber, nowMs, file } = facts;
  if (assignment === null) return [];
  const lines: ReadyLine[] = [];
  const stop = (key: string, point: ReadyPoint, to: 'place' | 'account' = 'place'): void =>
    void lines.push(line('stop', key, point, { to }));
  const doubt = (key: string, point: ReadyPoint): void => void lines.push(line('doubt', key, point, { to: 'place' }));
  const broken = brokenOf(facts);
  if (broken.some(({ rule }) => rule === 'closed')) stop('closed', { code: 'closed', title: assignment.title });
  else if (standing(assignment, nowMs) === 'late') doubt(`late ${assignment.id}`, { code: 'late' });
  else lines.push(line('fine', 'due', { code: 'inTime' }));
  if (account === null) stop('account', { code: 'noAccount' }, 'account');
  else {
    const { id, number } = account;
    const who = `${account.first} ${account.family}`;
    if (profileNumber !== '' && profileNumber !== number)
      doubt(`account ${id}`, { code: 'otherAccount', who, number, profileNumber });
    else lines.push(line('fine', 'account', { code: 'account', who, number }));
  }
  for (const each of broken)
    if (each.rule === 'field') stop(`field ${each.key}`, { code: 'fieldMissing', label: each.label });
  const [last] = valid(facts);
  if (broken.some(({ rule }) => rule === 'attempts'))
    stop('attempts', { code: 'attemptsUsed', attempts: assignment.attempts });
  if (file !== null && last?.sha256 === file.sha256)
    doubt(`same ${file.sha256}`, { code: 'sameFile', receipt: last.number });
  return lines;
}

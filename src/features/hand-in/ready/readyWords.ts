import { plural, select, t } from '@lingui/core/macro';
import type { Assignment } from '../../../../core/work/office/assignment';
import type { ReadyPoint } from '../../../../core/work/ready/readyCheck';
import type { ShotFinding } from '../../../../core/imaging/quality/shotFindings';
import { readableBytes } from '../../../i18n/formats';

/** A point of the ready check for people: what was found, and why it matters; nothing to say about what is fine. */
export interface ReadyWords {
  readonly says: string;
  readonly why: string;
}

/** How many pages an assignment asks for. */
export const pagesAsked = ({ leastPages, mostPages }: Pick<Assignment, 'leastPages' | 'mostPages'>): string =>
  leastPages === mostPages
    ? plural({ count: leastPages }, { one: '# page', other: '# pages' })
    : t`${leastPages} to ${mostPages} pages`;

/** @param adviceWords - says what the order helper found, in a sentence */
export function readyWords(
  point: ReadyPoint,
  adviceWords: (advice: Extract<ReadyPoint, { code: 'order' }>['advice']) => string,
): ReadyWords {
  switch (point.code) {
    case 'noPages':
      return { says: t`There are no pages yet.`, why: t`An empty file is not taken.` };
    case 'pageCount':
      return fine(plural({ count: point.count }, { one: '# page in the file', other: '# pages in the file' }));
    case 'pageCountFine':
      return fine(plural({ count: point.count }, { one: '# page, as asked for', other: '# pages, as asked for' }));
    case 'tooFewPages':
    case 'tooManyPages': {
      const pages = plural({ count: point.count }, { one: '# page', other: '# pages' });
      const asked = pagesAsked({ leastPages: point.least, mostPages: point.most });
      return {
        says: t`${pages}, and ${asked} are asked for.`,
        why: point.code === 'tooFewPages' ? t`A page may be missing.` : t`A page may be there twice.`,
      };
    }
    case 'looking':
      return fine(
        plural(
          { count: point.count },
          { one: '# page is still being looked at', other: '# pages are still being looked at' },
        ),
      );
    case 'shotsFine':
      return fine(t`Every page is sharp, whole, upright and flat`);
    case 'pending':
      return {
        says: t`Page ${{ number: point.number }} is still being looked at.`,
        why: t`Its paper has not been found yet.`,
      };
    case 'edgesUnsure':
      return {
        says: t`The edges of page ${{ number: point.number }} are not sure.`,
        why: t`Part of the page may be cut off, or the desk may show.`,
      };
    case 'turnUnsure':
      return {
        says: t`Page ${{ number: point.number }} may not be upright.`,
        why: t`A reader would have to turn their head.`,
      };
    case 'blank':
      return { says: t`Page ${{ number: point.number }} looks blank.`, why: t`It may have been shot by mistake.` };
    case 'finding':
      return findingWords(point.finding, point.number);
    case 'order':
      return { says: adviceWords(point.advice), why: t`A page may be missing, there twice, or out of its place.` };
    case 'orderFine':
      return fine(t`Nothing strange about the order`);
    case 'notBound':
      return { says: t`The file has not been bound yet.`, why: t`The file must match your pages.` };
    case 'changedSince':
      return { says: t`Something changed since the file was bound.`, why: t`The file must match your pages.` };
    case 'parts':
      return {
        says: t`The file came out in ${{ parts: point.parts }} parts.`,
        why: t`The course office takes one file. Choose Press for some pages, or leave pages out.`,
      };
    case 'tooLarge':
      return {
        says: t`The file has ${{ size: readableBytes(point.bytes) }}, and ${{ limit: readableBytes(point.maxBytes) }} is the limit.`,
        why: t`It would be refused. Set the limit and bind again: pages get smaller, not fewer.`,
      };
    case 'fits':
      return fine(
        t`One PDF, ${{ size: readableBytes(point.bytes) }}, fits the ${{ limit: readableBytes(point.maxBytes) }} limit`,
      );
    case 'size':
      return fine(t`One PDF, ${{ size: readableBytes(point.bytes) }}`);
    case 'wrongName':
      return {
        says: t`The file must be called “${{ wanted: point.wanted }}”.`,
        why: t`It is called “${{ name: point.name }}” and would be refused.`,
      };
    case 'named':
      return fine(t`Named “${{ name: point.name }}”`);
    case 'closed':
      return {
        says: t`“${{ title: point.title }}” is closed.`,
        why: t`The office takes nothing more for it. Write to the course, or choose another assignment.`,
      };
    case 'late':
      return {
        says: t`The deadline has passed. It will be accepted as late.`,
        why: t`Late work may lose marks.`,
      };
    case 'inTime':
      return fine(t`In time`);
    case 'noAccount':
      return { says: t`You are not signed in at the course office.`, why: t`It must know whose work this is.` };
    case 'otherAccount':
      return {
        says: t`This would go in as ${{ who: point.who }}, ${{ number: point.number }}.`,
        why: t`Your profile says ${{ number: point.profileNumber }}: this may be another person’s account.`,
      };
    case 'account':
      return fine(t`Submitting as ${{ who: `${point.who}, ${point.number}` }}`);
    case 'fieldMissing':
      return {
        says: t`${{ field: point.label }} is missing.`,
        why: t`The office asks for it with the file.`,
      };
    case 'attemptsUsed':
      return {
        says: plural(
          { count: point.attempts },
          { one: 'It was handed in already, and only once is allowed.', other: 'All # attempts are used.' },
        ),
        why: t`Withdraw the last one first, while there is time.`,
      };
    case 'sameFile':
      return {
        says: t`This file was handed in already.`,
        why: t`Receipt ${{ number: point.receipt }}. Nothing changed since.`,
      };
  }
}

const fine = (says: string): ReadyWords => ({ says, why: '' });

function findingWords(finding: ShotFinding, number: number): ReadyWords {
  const why = {
    incomplete: t`Its file breaks off. Copy it from the phone again, or shoot the page again.`,
    blurred: t`Small writing may not be readable.`,
    cut: t`Something may be missing at the side.`,
    glare: t`What lies under it may be lost. A second photo, from further to the side, can show it.`,
    thumb: t`It covers part of the page. Mend it, or shoot it again.`,
    lowDetail: t`It was shot from too far away for small print.`,
    dark: t`Noise may hide faint strokes.`,
  }[finding];
  return {
    says: select(finding, {
      incomplete: `Part of page ${number} is missing.`,
      blurred: `Page ${number} is blurred.`,
      cut: `Page ${number} runs out of its photo.`,
      glare: `Page ${number} has a reflection on it.`,
      thumb: `Page ${number} has a finger on it.`,
      lowDetail: `Page ${number} has low detail.`,
      other: `Page ${number} was shot in the dark.`,
    }),
    why,
  };
}

import { useMemo } from 'react';
import { boundPages, type HandIn } from '../../../../core/work/hand-in/handIn';
import { nameByPattern } from '../../../../core/work/naming/namePattern';
import type { Assignment } from '../../../../core/work/office/assignment';
import { readyCheck, type ReadyLine } from '../../../../core/work/ready/readyCheck';
import { useNow } from '../../../format/useNow';
import { keyOf } from '../../../order-advice/OrderAdvice';
import { useOrderAdvice } from '../../../order-advice/useOrderAdvice';
import { useOfficeStore } from '../../../college/officeStore';
import { useAccountStore } from '../../../college/accountStore';
import { useNotes } from '../../../college/sendingStore';
import { madeFromKey } from '../../../../core/work/hand-in/madeFrom';
import { useBoundFile, useProfile } from '../../../engine/useEngine';
import { fileNameOf, nameFacts } from '../../../college/fileName';

/** The ready check of a hand-in, run again as anything it looks at changes. */
export function useReadyLines(handIn: HandIn, assignment: Assignment | null): readonly ReadyLine[] {
  const nowMs = useNow();
  const { all, dismissed, blankPages, unseenPages } = useOrderAdvice(handIn);
  const file = useBoundFile(handIn.id);
  const account = useAccountStore((s) => s.accounts.office);
  const everyReceipt = useOfficeStore((s) => s.receipts);
  const profile = useProfile();
  const { fields } = useNotes(handIn.id);
  return useMemo(() => {
    const pages = boundPages(handIn);
    const findings = Object.fromEntries(pages.map((page) => [page.id, page.findings ?? []]));
    // a PDF's page was not shot
    const unseenShots = pages.filter((page) => page.findings === null && page.pdfPage === null);
    return readyCheck({
      handIn,
      nowMs,
      findings,
      blankPages,
      unseenPages: [...unseenPages, ...unseenShots.map(({ id }) => id)],
      orderAdvice: all.filter((advice) => advice.kind !== 'blank' && !dismissed.includes(keyOf(handIn, advice))),
      file:
        file === undefined
          ? null
          : {
              bytes: file.blob.size,
              fresh: file.madeFrom === madeFromKey(handIn),
              parts: Math.max(1, file.parts.length),
              name: fileNameOf(handIn, profile),
              sha256: file.sha256,
            },
      // the office goes by the account's own name, whatever the profile says
      wantedName:
        assignment === null || assignment.name === null || account === null
          ? null
          : nameByPattern(assignment.name, {
              ...nameFacts(handIn, profile),
              family: account.family,
              first: account.first,
              number: account.number,
            }),
      assignment,
      account,
      profileNumber: profile.number,
      fields,
      receipts: everyReceipt.filter(({ assignmentId }) => assignmentId === handIn.assignmentId),
    });
  }, [
    handIn,
    assignment,
    nowMs,
    all,
    dismissed,
    blankPages,
    unseenPages,
    file,
    account,
    everyReceipt,
    profile,
    fields,
  ]);
}

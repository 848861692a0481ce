import { plural, t } from '@lingui/core/macro';
import ExternalLink from 'lucide-react-native/icons/external-link';
import { useState } from 'react';
import { View } from 'react-native';
import { standing, type Assignment, type Receipt } from '../../core/ready/assignment';
import { Action } from '../components/Action';
import { CropMarks } from '../components/CropMarks';
import { Flag } from '../components/Flag';
import { Words } from '../components/Words';
import { readableBytes, readableDate } from '../i18n/formats';
import { useNow } from '../format/useNow';
import { withdraw } from './officeStore';
import { errorText } from '../i18n/errorText';

/** Proof that a file arrived, what the reader wrote back, and the way to what the reader sees. */
export function ReceiptCard({
  receipt,
  assignment,
  before,
}: {
  readonly receipt: Receipt;
  readonly assignment: Assignment | null;
  readonly before: Receipt | null;
}) {
  const now = useNow();
  const [problem, setProblem] = useState<string | null>(null);
  const open = assignment !== null && standing(assignment, now) !== 'closed';
  const take = (): void =>
    void withdraw(receipt).catch((error: unknown) =>
      setProblem(errorText(error, t`It could not be withdrawn. Try again.`)),
    );
  return (
    <View className="gap-1 bg-sheet p-4">
      <CropMarks />
      <Flag kind={receipt.withdrawn ? 'look' : 'fine'}>
        {receipt.withdrawn ? t`Withdrawn` : receipt.late ? t`Received, late` : t`Received`}
      </Flag>
      <Words as="head" className="tabular-nums">{t`Receipt ${{ number: receipt.number }}`}</Words>
      <Words className="break-words">{receipt.fileName}</Words>
      <Words className="tabular-nums">{t`PDF, ${plural({ count: receipt.pages }, { one: '# page', other: '# pages' })}, ${{ size: readableBytes(receipt.bytes) }}, attempt ${{ attempt: receipt.attempt }}`}</Words>
      <Words as="soft">{readableDate(receipt.atMs, { dateStyle: 'full', timeStyle: 'medium' })}</Words>
      {before === null ? null : <Words as="soft">{changed(receipt, before)}</Words>}
      <Words as="soft" className="break-all">{t`SHA-256 ${{ sha256: receipt.sha256 }}`}</Words>
      {receipt.comment === '' ? null : <Words as="soft">{t`You wrote: ${{ comment: receipt.comment }}`}</Words>}
      {receipt.notes.map(({ page, text }, i) => (
        <View key={i} className="border-s-4 border-beet ps-3">
          <Words>{`${page === 0 ? t`On the whole` : t`Page ${page}`}: ${text}`}</Words>
        </View>
      ))}
      <View className="flex-row flex-wrap gap-2 pt-1">
        <Action
          label={t`What the reader sees`}
          icon={ExternalLink}
          onPress={() => void window.open(`/office/read/${receipt.submissionId}`, '_blank', 'noopener')}
        />
        {open && !receipt.withdrawn ? (
          <Action
            kind="quiet"
            label={t`Withdraw`}
            spoken={t`Withdraw receipt ${{ number: receipt.number }}`}
            onPress={take}
          />
        ) : null}
      </View>
      {problem === null ? null : (
        <Flag kind="broken" live>
          {problem}
        </Flag>
      )}
    </View>
  );
}

/** What became different since the attempt before. */
function changed(now: Receipt, before: Receipt): string {
  if (now.sha256 === before.sha256) return t`The same file as attempt ${{ attempt: before.attempt }}.`;
  const pages = now.pages - before.pages;
  const said = [
    pages === 0
      ? null
      : pages > 0
        ? plural(pages, { one: '# page more', other: '# pages more' })
        : plural({ count: -pages }, { one: '# page fewer', other: '# pages fewer' }),
    now.fileName === before.fileName ? null : t`another name`,
    pages === 0 ? t`pages changed` : null,
  ].filter((each) => each !== null);
  return t`Since attempt ${{ attempt: before.attempt }}: ${{ changes: said.join(', ') }}.`;
}

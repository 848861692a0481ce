import { plural, t } from '@lingui/core/macro';
import ExternalLink from 'lucide-react-native/icons/external-link';
import { useState } from 'react';
import { View } from 'react-native';
import { standing, type Assignment, type Receipt } from '../../../core/work/office/assignment';
import { Button } from '../../ui/Button';
import { CropMarks } from '../../ui/CropMarks';
import { StatusMessage } from '../../ui/StatusMessage';
import { Text } from '../../ui/Text';
import { readableBytes, readableDate } from '../../i18n/formats';
import { useNow } from '../../format/useNow';
import { withdraw } from '../../college/officeStore';
import { errorText } from '../../i18n/errorText';

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
      <StatusMessage status={receipt.withdrawn ? 'warning' : 'success'}>
        {receipt.withdrawn ? t`Withdrawn` : receipt.late ? t`Received, late` : t`Received`}
      </StatusMessage>
      <Text variant="head" className="tabular-nums">{t`Receipt ${{ number: receipt.number }}`}</Text>
      <Text className="break-words">{receipt.fileName}</Text>
      <Text className="tabular-nums">{t`PDF, ${plural({ count: receipt.pages }, { one: '# page', other: '# pages' })}, ${{ size: readableBytes(receipt.bytes) }}, attempt ${{ attempt: receipt.attempt }}`}</Text>
      <Text variant="soft">{readableDate(receipt.atMs, { dateStyle: 'full', timeStyle: 'medium' })}</Text>
      {before === null ? null : <Text variant="soft">{changed(receipt, before)}</Text>}
      <Text variant="soft" className="break-all">{t`SHA-256 ${{ sha256: receipt.sha256 }}`}</Text>
      {receipt.comment === '' ? null : <Text variant="soft">{t`You wrote: ${{ comment: receipt.comment }}`}</Text>}
      {receipt.notes.map(({ page, text }, i) => (
        <View key={i} className="border-s-4 border-beet ps-3">
          <Text>{`${page === 0 ? t`On the whole` : t`Page ${page}`}: ${text}`}</Text>
        </View>
      ))}
      <View className="flex-row flex-wrap gap-2 pt-1">
        <Button
          label={t`What the reader sees`}
          icon={ExternalLink}
          onPress={() => void window.open(`/office/read/${receipt.submissionId}`, '_blank', 'noopener')}
        />
        {open && !receipt.withdrawn ? (
          <Button
            variant="text"
            label={t`Withdraw`}
            accessibilityLabel={t`Withdraw receipt ${{ number: receipt.number }}`}
            onPress={take}
          />
        ) : null}
      </View>
      <StatusMessage status="error" announce>
        {problem}
      </StatusMessage>
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

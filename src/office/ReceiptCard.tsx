import ExternalLink from 'lucide-react-native/icons/external-link';
import { useState } from 'react';
import { View } from 'react-native';
import { FotoplanError } from '../../core/errors';
import { standing, type Assignment, type Receipt } from '../../core/ready/assignment';
import { Action } from '../components/Action';
import { CropMarks } from '../components/CropMarks';
import { Flag } from '../components/Flag';
import { Words } from '../components/Words';
import { readableBytes } from '../../core/readableBytes';
import { useNow } from '../format/useNow';
import { withdraw } from './officeStore';

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
      setProblem(error instanceof FotoplanError ? error.message : 'It could not be withdrawn. Try again.'),
    );
  return (
    <View className="gap-1 bg-sheet p-4">
      <CropMarks />
      <Flag kind={receipt.withdrawn ? 'look' : 'fine'}>
        {receipt.withdrawn ? 'Withdrawn' : receipt.late ? 'Received, late' : 'Received'}
      </Flag>
      <Words as="head" className="tabular-nums">{`Receipt ${receipt.number}`}</Words>
      <Words className="break-words">{receipt.fileName}</Words>
      <Words className="tabular-nums">{`PDF, ${receipt.pages === 1 ? '1 page' : `${receipt.pages} pages`}, ${readableBytes(receipt.bytes)}, attempt ${receipt.attempt}`}</Words>
      <Words as="soft">
        {new Date(receipt.atMs).toLocaleString(undefined, { dateStyle: 'full', timeStyle: 'medium' })}
      </Words>
      {before === null ? null : <Words as="soft">{changed(receipt, before)}</Words>}
      <Words as="soft" className="break-all">{`SHA-256 ${receipt.sha256}`}</Words>
      {receipt.comment === '' ? null : <Words as="soft">{`You wrote: ${receipt.comment}`}</Words>}
      {receipt.notes.map(({ page, text }, i) => (
        <View key={i} className="border-l-4 border-beet pl-3">
          <Words>{`${page === 0 ? 'On the whole' : `Page ${page}`}: ${text}`}</Words>
        </View>
      ))}
      <View className="flex-row flex-wrap gap-2 pt-1">
        <Action
          label="What the reader sees"
          icon={ExternalLink}
          onPress={() => void window.open(`/office/read/${receipt.submissionId}`, '_blank', 'noopener')}
        />
        {open && !receipt.withdrawn ? (
          <Action kind="quiet" label="Withdraw" spoken={`Withdraw receipt ${receipt.number}`} onPress={take} />
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
  if (now.sha256 === before.sha256) return `The same file as attempt ${before.attempt}.`;
  const pages = now.pages - before.pages;
  const said = [
    pages === 0
      ? null
      : `${Math.abs(pages)} ${Math.abs(pages) === 1 ? 'page' : 'pages'} ${pages > 0 ? 'more' : 'fewer'}`,
    now.fileName === before.fileName ? null : 'another name',
    pages === 0 ? 'pages changed' : null,
  ].filter((each) => each !== null);
  return `Since attempt ${before.attempt}: ${said.join(', ')}.`;
}

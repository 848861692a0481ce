import { useEffect, useState } from 'react';
import { ScrollView, TextInput, View } from 'react-native';
import type { HandIn } from '../../core/handIn/handIn';
import { isReady } from '../../core/ready/readyCheck';
import { FilePreview } from '../bind/FilePreview';
import { FIELD } from '../bind/NameTool';
import { Action } from '../components/Action';
import { Flag } from '../components/Flag';
import { HandInFrame } from '../components/HandInFrame';
import { useWide } from '../components/useWide';
import { Words } from '../components/Words';
import { readableBytes } from '../../core/readableBytes';
import { AccountTool } from '../office/AccountTool';
import { AssignmentChoice } from '../office/AssignmentChoice';
import { refreshOffice, useOfficeStore } from '../office/officeStore';
import { ReceiptCard } from '../office/ReceiptCard';
import { changeNotes, handInFile, useNotes, useSendStore, type SendState } from '../office/sendingStore';
import { ReadyList } from '../ready/ReadyList';
import { useReadyLines } from '../ready/useReadyLines';
import { loadBoundFile, useBoundFileStore } from '../stores/boundFileStore';
import { fileNameOf } from '../stores/fileName';
import { useProfileStore } from '../stores/profileStore';
import { withHandIn } from './withHandIn';

/** From ready to received: what still stands in the way, whose account and which assignment, the file itself, and the receipt. */
export const HandInScreen = withHandIn(function HandInScreen({ handIn }: { readonly handIn: HandIn }) {
  const wide = useWide();
  const assignments = useOfficeStore((s) => s.assignments);
  const assignment = assignments.find(({ id }) => id === handIn.assignmentId) ?? null;
  const everyReceipt = useOfficeStore((s) => s.receipts);
  const receipts = everyReceipt.filter(({ assignmentId }) => assignmentId === handIn.assignmentId && assignmentId !== null);
  const lines = useReadyLines(handIn, assignment);
  const { accepted } = useNotes(handIn.id);
  const file = useBoundFileStore((s) => s.files[handIn.id]);
  const send = useSendStore((s) => s.sends[handIn.id]) ?? { state: 'idle' };
  const [seeing, setSeeing] = useState(false);
  const name = fileNameOf(handIn, useProfileStore());
  useEffect(() => {
    void loadBoundFile(handIn.id);
    void refreshOffice();
  }, [handIn.id]);
  const ready = assignment !== null && file !== undefined && isReady(lines, accepted);
  const received = receipts.find(({ withdrawn, sha256 }) => !withdrawn && sha256 === file?.sha256);
  const busy = send.state === 'sending' || send.state === 'waiting';
  const next = busy
    ? { label: send.state === 'waiting' ? 'The office is looking at it' : `Sending, ${Math.round(100 * send.share)} %`, onPress: () => undefined, disabled: true }
    : ready
      ? { label: received === undefined ? 'Hand it in' : 'Hand it in again', onPress: () => void handInFile(handIn.id, assignment.id, file, name) }
      : { label: assignment === null ? 'Choose an assignment' : 'Not ready yet', onPress: () => undefined, disabled: true };
  const place = (
    <View className="gap-5">
      <AssignmentChoice handIn={handIn} assignment={assignment} assignments={assignments} />
      {assignment === null ? null : (
        <>
          <AccountTool />
          <FieldsTool handIn={handIn} fields={assignment.fields} />
        </>
      )}
      {file === undefined ? null : (
        <View className="gap-2">
          <Words as="strong">The file</Words>
          <Words className="break-words tabular-nums">{`${name}, PDF, ${file.pageBytes.length === 1 ? '1 page' : `${file.pageBytes.length} pages`}, ${readableBytes(file.blob.size)}`}</Words>
          <View className="items-start"><Action label="See the very file" onPress={() => setSeeing(true)} /></View>
        </View>
      )}
    </View>
  );
  const state = (
    <View className="gap-5">
      <Sending send={send} />
      {receipts.map((receipt, i) => (
        <ReceiptCard key={receipt.submissionId} receipt={receipt} assignment={assignment} before={receipts[i + 1] ?? null} />
      ))}
      <ReadyList handIn={handIn} lines={lines} />
    </View>
  );
  return (
    <HandInFrame handIn={handIn} stage="handIn" next={next}>
      {wide ? (
        <View className="flex-1 flex-row">
          <ScrollView className="flex-1 border-r border-rule-faint" contentContainerClassName="mx-auto w-full max-w-[560px] p-6">{place}</ScrollView>
          <ScrollView className="flex-1" contentContainerClassName="mx-auto w-full max-w-[560px] p-6">{state}</ScrollView>
        </View>
      ) : (
        <ScrollView contentContainerClassName="mx-auto w-full max-w-[640px] gap-6 p-4">
          {state}
          {place}
        </ScrollView>
      )}
      {seeing && file !== undefined ? <FilePreview handIn={handIn} file={file} onClose={() => setSeeing(false)} /> : null}
    </HandInFrame>
  );
});

function Sending({ send }: { readonly send: SendState }) {
  if (send.state === 'failed') return <Flag kind="broken" live>{send.problem}</Flag>;
  if (send.state === 'idle') return null;
  const share = send.state === 'sending' ? send.share : 1;
  return (
    <View className="gap-2">
      <View role="progressbar" aria-label="Handing in" aria-valuenow={Math.round(share * 100)} aria-valuemin={0} aria-valuemax={100} className="h-3 border border-rule bg-sheet">
        <View className="h-full bg-beet" style={{ width: `${share * 100}%` }} />
      </View>
      <Words as="soft" role="status">{send.state === 'waiting' ? 'The file has arrived; the office is looking at it.' : 'On its way to the course office.'}</Words>
      {send.state === 'sending' && share < 1 ? <View className="items-start"><Action label="Stop" onPress={send.stop} /></View> : null}
    </View>
  );
}

/** What the office asks for besides the file, and a word to the reader. */
function FieldsTool({ handIn, fields }: { readonly handIn: HandIn; readonly fields: readonly { readonly key: string; readonly label: string }[] }) {
  const notes = useNotes(handIn.id);
  return (
    <View className="gap-3">
      {fields.map(({ key, label }) => (
        <View key={key} className="gap-1">
          <Words as="strong" nativeID={`field-${key}`}>{label}</Words>
          <TextInput aria-labelledby={`field-${key}`} value={notes.fields[key] ?? ''} onChangeText={(text) => changeNotes(handIn.id, { fields: { ...notes.fields, [key]: text.slice(0, 200) } })} className={FIELD} />
        </View>
      ))}
      <View className="gap-1">
        <Words as="strong" nativeID="comment-label">A word to the reader, if you like</Words>
        <TextInput aria-labelledby="comment-label" multiline value={notes.comment} onChangeText={(comment) => changeNotes(handIn.id, { comment: comment.slice(0, 2000) })} className={`${FIELD} min-h-[72px] py-2`} />
      </View>
    </View>
  );
}

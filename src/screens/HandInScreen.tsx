import { msg, plural, t } from '@lingui/core/macro';
import Download from 'lucide-react-native/icons/download';
import Eye from 'lucide-react-native/icons/eye';
import Share2 from 'lucide-react-native/icons/share-2';
import { useEffect, useRef, useState } from 'react';
import { ScrollView, TextInput, View } from 'react-native';
import { boundPages, type HandIn } from '../../core/work/hand-in/handIn';
import { isReady, openLines, type ReadyFix } from '../../core/work/ready/readyCheck';
import { readableBytes } from '../i18n/formats';
import { FilePages, FilePreview } from '../features/bind/FilePreview';
import { Button } from '../ui/Button';
import { FIELD } from '../ui/field';
import { StatusMessage } from '../ui/StatusMessage';
import { HandInFrame } from '../frame/HandInFrame';
import { useSideways, useWide } from '../ui/breakpoints';
import { ChoiceGroup } from '../ui/ChoiceGroup';
import { Text } from '../ui/Text';
import { downloadFile } from '../files/downloadFile';
import { canShare, shareFile } from '../files/shareFile';
import { TakeAlongTool } from '../features/export-import/TakeAlongTool';
import { AssignmentChoice } from '../features/hand-in/AssignmentChoice';
import { refreshOffice, useOfficeStore } from '../college/officeStore';
import { ReceiptCard } from '../features/hand-in/ReceiptCard';
import { changeNotes, handInFile, useNotes } from '../college/sendingStore';
import { useAccountStore } from '../college/accountStore';
import { AccountTool } from '../features/hand-in/AccountTool';
import { LockerTool } from '../features/hand-in/LockerTool';
import { PostTool } from '../features/hand-in/PostTool';
import { SendProgress } from '../features/hand-in/SendProgress';
import { IDLE, useSendStore } from '../college/sendStore';
import { ReadyList, useFix } from '../features/hand-in/ready/ReadyList';
import { useReadyLines } from '../features/hand-in/ready/useReadyLines';
import { useBoundFile, useEngine, useProfile } from '../engine/useEngine';
import { fileNameOf } from '../college/fileName';
import { useStore } from 'zustand';
import { BindProgress } from '../features/bind/BindProgress';
import { useBind } from '../features/bind/useBind';
import { nextAction } from './nextAction';
import { nextLabel } from './nextLabel';
import { withHandIn } from './withHandIn';

const PLACES = { office: msg`Course office`, post: msg`Mail`, locker: msg`Locker`, device: msg`This device` } as const;
type Place = keyof typeof PLACES;

/** From ready to received: what still stands in the way, where to and as whom, the file itself, and the receipt. */
export const HandInScreen = withHandIn(function HandInScreen({ handIn }: { readonly handIn: HandIn }) {
  const sideways = useSideways();
  const wide = useWide();
  const { binding: binder, boundFiles, finding, profile } = useEngine();
  const assignments = useOfficeStore((s) => s.assignments);
  const assignment = assignments.find(({ id }) => id === handIn.assignmentId) ?? null;
  const everyReceipt = useOfficeStore((s) => s.receipts);
  const receipts = everyReceipt.filter(
    ({ assignmentId }) => assignmentId === handIn.assignmentId && assignmentId !== null,
  );
  const account = useAccountStore((s) => s.accounts.office);
  const lines = useReadyLines(handIn, assignment);
  const { accepted } = useNotes(handIn.id);
  const file = useBoundFile(handIn.id);
  const send = useSendStore((s) => s.sends[`${handIn.id} office`]) ?? IDLE;
  const [place, setPlace] = useState<Place>('office');
  const [seeing, setSeeing] = useState(false);
  const name = fileNameOf(handIn, useProfile());
  useEffect(() => {
    void boundFiles.load(handIn.id);
    void refreshOffice(profile);
  }, [handIn.id, boundFiles, profile]);
  useEffect(() => void finding.inspect(handIn), [handIn, finding]);
  // what comes of it is shown at the top
  const scroll = useRef<ScrollView>(null);
  useEffect(() => {
    if (send.state !== 'idle') scroll.current?.scrollTo({ y: 0 });
  }, [send.state]);
  const ready = assignment !== null && file !== undefined && isReady(lines, accepted);
  const received = receipts.find(({ withdrawn, sha256 }) => !withdrawn && sha256 === file?.sha256);
  const busy = send.state === 'sending' || send.state === 'waiting';
  const onFixHere = (to: ReadyFix['to']): void => {
    setPlace('office');
    // once it is there
    setTimeout(
      () =>
        document
          .getElementById(to === 'account' ? 'account-office' : 'office-place')
          ?.scrollIntoView({ block: 'center' }),
      50,
    );
  };
  const goToFix = useFix(handIn, onFixHere);
  const bind = useBind();
  const binding = useStore(binder.state, (s) => s.bindings[handIn.id]) ?? { state: 'idle' };
  useEffect(() => binder.ready(), [binder]);
  const open = openLines(lines, accepted);
  const wantsBinding = open.some(({ point }) => point.code === 'notBound' || point.code === 'changedSince');
  const canBind = wantsBinding && !open.some(({ point }) => point.code === 'pending' || point.code === 'noPages');
  const firstFix = open.find((line) => line.fix !== null)?.fix ?? null;
  const action = nextAction({
    stage: 'handIn',
    pages: boundPages(handIn).length,
    sending: send.state === 'waiting' ? 'office' : send.state === 'sending' ? send.share : null,
    binding: binding.state === 'binding' ? binding.share : null,
    received: received !== undefined,
    handedInBefore: receipts.some(({ withdrawn }) => !withdrawn),
    file: file === undefined ? 'none' : wantsBinding ? 'stale' : 'fresh',
    canBind,
    ready,
    hasAssignment: assignment !== null,
    fix: firstFix?.to ?? null,
  });
  const next = {
    label: nextLabel(action),
    disabled: action.does === 'wait',
    onPress: () => {
      if (action.does === 'seeSubmission') window.open(`/office/read/${received!.submissionId}`, '_blank', 'noopener');
      else if (action.does === 'handIn') void handInFile(handIn.id, assignment!.id, file!, name);
      else if (action.does === 'bind') bind(handIn);
      else if (action.does === 'fix') goToFix(firstFix!);
      else onFixHere('place');
    },
  };
  const fileLine =
    file === undefined
      ? null
      : t`${name}, PDF, ${plural({ count: file.pageBytes.length }, { one: '# page', other: '# pages' })}, ${{ size: readableBytes(file.blob.size) }}`;
  const placeTools = (
    <View className="gap-5">
      <View className="gap-2" nativeID="office-place">
        <Text variant="head" nativeID="place-label">
          {t`Where to`}
        </Text>
        <ChoiceGroup
          labelledBy="place-label"
          choices={(Object.keys(PLACES) as Place[]).map((each) => ({ value: each, label: t(PLACES[each]) }))}
          value={place}
          onChange={setPlace}
        />
      </View>
      {place === 'office' ? (
        <>
          <AssignmentChoice handIn={handIn} assignment={assignment} assignments={assignments} onRulesChanged={bind} />
          <AccountTool service="office" />
          {assignment === null ? null : <FieldsTool handIn={handIn} fields={assignment.fields} />}
        </>
      ) : file === undefined ? (
        <Text variant="soft">{t`Bind the pages first; the file then goes from here.`}</Text>
      ) : place === 'post' ? (
        <PostTool handIn={handIn} file={file} name={name} />
      ) : place === 'locker' ? (
        <LockerTool handIn={handIn} courseCode={assignment?.courseCode ?? null} file={file} name={name} />
      ) : (
        <>
          <OnDevice file={file.blob} name={name} title={handIn.title} />
          <TakeAlongTool handIns={[handIn]} label={t`All of it as a zip`} />
        </>
      )}
      {fileLine === null ? null : (
        <View className="gap-2">
          <Text variant="strong">{t`The file`}</Text>
          <Text className="break-words tabular-nums">{fileLine}</Text>
          {wide ? null : (
            <View className="items-start">
              <Button label={t`Preview the file`} icon={Eye} onPress={() => setSeeing(true)} />
            </View>
          )}
        </View>
      )}
    </View>
  );
  const state = (
    <View className="gap-5">
      <BindProgress handIn={handIn} binding={binding} />
      <SendProgress send={send} service="office" />
      {received !== undefined && !busy ? (
        <StatusMessage status="success">{t`This file has been received.`}</StatusMessage>
      ) : null}
      {ready && received === undefined && account !== null && !busy ? (
        <Text testID="said-before">{t`${{ file: fileLine ?? '' }}, goes to the course office for “${{ title: assignment.title }}” as the work of ${{ first: account.first }} ${{ family: account.family }}, ${{ number: account.number }}.`}</Text>
      ) : null}
      {receipts.map((receipt, i) => (
        <ReceiptCard
          key={receipt.submissionId}
          receipt={receipt}
          assignment={assignment}
          before={receipts[i + 1] ?? null}
        />
      ))}
      {received === undefined ? <ReadyList handIn={handIn} lines={lines} onFixHere={onFixHere} /> : null}
    </View>
  );
  const filePreview =
    file === undefined ? (
      <Text variant="soft" className="p-4">{t`The file will lie here once it is bound.`}</Text>
    ) : (
      <FilePages file={file} cover={handIn.binding.cover} />
    );
  return (
    <HandInFrame
      handIn={handIn}
      stage="handIn"
      next={next}
      aside={{
        width: 'file',
        content: wide ? filePreview : <ScrollView contentContainerClassName="p-4">{placeTools}</ScrollView>,
      }}
    >
      <ScrollView ref={scroll} contentContainerClassName="mx-auto w-full max-w-[640px] gap-8 p-4">
        {state}
        {sideways && !wide ? null : placeTools}
      </ScrollView>
      {seeing && file !== undefined ? (
        <FilePreview handIn={handIn} file={file} onClose={() => setSeeing(false)} />
      ) : null}
    </HandInFrame>
  );
});

/** The ways that end on this device or go through it. */
function OnDevice({ file, name, title }: { readonly file: Blob; readonly name: string; readonly title: string }) {
  const named = [new File([file], name, { type: 'application/pdf' })];
  return (
    <View className="flex-row flex-wrap gap-2">
      <Button label={t`Download the PDF`} icon={Download} onPress={() => downloadFile(file, name)} />
      {canShare(named) ? (
        <Button label={t`Share the PDF`} icon={Share2} onPress={() => void shareFile(named, title)} />
      ) : null}
    </View>
  );
}

/** What the office asks for besides the file, and a word to the reader. */
function FieldsTool({
  handIn,
  fields,
}: {
  readonly handIn: HandIn;
  readonly fields: readonly { readonly key: string; readonly label: string }[];
}) {
  const notes = useNotes(handIn.id);
  return (
    <View className="gap-3">
      {fields.map(({ key, label }) => (
        <View key={key} className="gap-1">
          <Text variant="strong" nativeID={`field-${key}`}>
            {label}
          </Text>
          <TextInput
            aria-labelledby={`field-${key}`}
            value={notes.fields[key] ?? ''}
            onChangeText={(text) => changeNotes(handIn.id, { fields: { ...notes.fields, [key]: text.slice(0, 200) } })}
            className={FIELD}
          />
        </View>
      ))}
      <View className="gap-1">
        <Text variant="strong" nativeID="comment-label">
          {t`Comment for the reader (optional)`}
        </Text>
        <TextInput
          aria-labelledby="comment-label"
          multiline
          value={notes.comment}
          onChangeText={(comment) => changeNotes(handIn.id, { comment: comment.slice(0, 2000) })}
          className={`${FIELD} min-h-[72px] py-2`}
        />
      </View>
    </View>
  );
}

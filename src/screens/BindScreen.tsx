import Download from 'lucide-react-native/icons/download';
import { useRouter } from 'expo-router';
import { useEffect, useState } from 'react';
import { ScrollView, TextInput, View } from 'react-native';
import { boundPages, type HandIn } from '../../core/handIn/handIn';
import { PAPERS, type Paper } from '../../core/pdf/paperSize';
import { isPending } from '../../core/recipe/recipe';
import { Action } from '../components/Action';
import { Flag } from '../components/Flag';
import { HandInFrame } from '../components/HandInFrame';
import { SizeBar } from '../components/SizeBar';
import { Words } from '../components/Words';
import { downloadFile } from '../files/downloadFile';
import { readableBytes } from '../format/readableBytes';
import { bindHandIn, loadBoundFile, madeFromKey, useBoundFileStore } from '../stores/boundFileStore';
import { renameHandIn, setPaper } from '../stores/pageActions';
import { withHandIn } from './withHandIn';

const PAPER_NAMES: Readonly<Record<Paper, string>> = { auto: 'As the page is', a4: 'A4', letter: 'Letter' };

/** Name and paper on one sheet, then the file. */
export const BindScreen = withHandIn(function BindScreen({ handIn }: { readonly handIn: HandIn }) {
  const router = useRouter();
  const file = useBoundFileStore((s) => s.files[handIn.id]);
  const binding = useBoundFileStore((s) => s.bindings[handIn.id]) ?? { state: 'idle' };
  useEffect(() => void loadBoundFile(handIn.id), [handIn.id]);
  const pages = boundPages(handIn);
  const count = pages.length === 1 ? '1 page' : `${pages.length} pages`;
  const fresh = file !== undefined && file.madeFrom === madeFromKey(handIn);
  const next =
    binding.state === 'binding'
      ? { label: `Binding page ${Math.min(pages.length, Math.floor(binding.share * pages.length) + 1)} of ${pages.length}`, onPress: () => undefined, disabled: true }
      : pages.some(({ recipe }) => isPending(recipe))
        ? { label: 'Finding the paper first', onPress: () => undefined, disabled: true }
      : pages.length === 0
        ? { label: 'Add photos first', onPress: () => router.replace(`/hand-in/${handIn.id}`) }
        : fresh
          ? { label: `Download the PDF, ${readableBytes(file.blob.size)}`, onPress: () => downloadFile(file.blob, file.name) }
          : { label: file === undefined ? `Bind ${count}` : `Bind ${count} again`, onPress: () => void bindHandIn(handIn) };
  return (
    <HandInFrame handIn={handIn} stage="bind" next={next}>
      <ScrollView contentContainerClassName="mx-auto w-full max-w-[640px] gap-6 p-4">
        <NameField handIn={handIn} />
        <View className="gap-2">
          <Words as="strong" nativeID="paper-label">Paper</Words>
          <View role="group" aria-labelledby="paper-label" className="flex-row flex-wrap gap-2">
            {PAPERS.map((paper) => (
              <Action key={paper} label={PAPER_NAMES[paper]} spoken={`${PAPER_NAMES[paper]}${paper === handIn.paper ? ', chosen' : ''}`} on={paper === handIn.paper} onPress={() => void setPaper(handIn, paper)} />
            ))}
          </View>
        </View>
        {binding.state === 'binding' ? (
          <View className="gap-2">
            <View role="progressbar" aria-label="Binding" aria-valuenow={Math.round(binding.share * 100)} aria-valuemin={0} aria-valuemax={100} className="h-3 border border-rule bg-sheet">
              <View className="h-full bg-beet" style={{ width: `${binding.share * 100}%` }} />
            </View>
            <Action label="Stop" onPress={binding.stop} />
          </View>
        ) : null}
        {binding.state === 'failed' ? <Flag kind="broken" live>{binding.problem}</Flag> : null}
        {file !== undefined && binding.state !== 'binding' ? (
          <View className="gap-3 rounded border border-rule-faint bg-sheet p-4">
            <Words as="head">{file.name}</Words>
            <Words className="tabular-nums">{`PDF, ${file.pageBytes.length === 1 ? '1 page' : `${file.pageBytes.length} pages`}, ${readableBytes(file.blob.size)}`}</Words>
            <SizeBar pageBytes={file.pageBytes} />
            {fresh ? <Flag kind="fine" live>This file is up to date.</Flag> : <Flag kind="look" live>Something changed since. Bind again to have it in the file.</Flag>}
            {fresh ? null : <Action label="Download the older file" icon={Download} onPress={() => downloadFile(file.blob, file.name)} />}
          </View>
        ) : null}
      </ScrollView>
    </HandInFrame>
  );
});

/** The hand-in's name; kept when the field is left. */
function NameField({ handIn }: { readonly handIn: HandIn }) {
  const [name, setName] = useState(handIn.title);
  useEffect(() => setName(handIn.title), [handIn.title]);
  const keep = (): void => {
    const trimmed = name.trim().slice(0, 120);
    if (trimmed === '') setName(handIn.title);
    else if (trimmed !== handIn.title) void renameHandIn(handIn, trimmed);
  };
  return (
    <View className="gap-2">
      <Words as="strong" nativeID="name-label">Name of the file</Words>
      <TextInput
        value={name}
        onChangeText={setName}
        onBlur={keep}
        onSubmitEditing={keep}
        aria-labelledby="name-label"
        maxLength={120}
        className="min-h-[48px] rounded border border-rule bg-sheet px-3 font-read text-read text-ink"
      />
    </View>
  );
}

import { plural, t } from '@lingui/core/macro';
import { useRouter } from 'expo-router';
import { useEffect, useRef, useState } from 'react';
import { ScrollView, View } from 'react-native';
import { boundPages, type HandIn } from '../../core/handIn/handIn';
import { PAPERS } from '../../core/pdf/paperSize';
import { isPending } from '../../core/recipe/recipe';
import { BoundFileCard } from '../bind/BoundFileCard';
import { FilePreview } from '../bind/FilePreview';
import { LimitTool } from '../bind/LimitTool';
import { NameTool } from '../bind/NameTool';
import { PAPER_NAMES } from '../bind/paperNames';
import { Switch } from '../bind/Switch';
import { Action } from '../components/Action';
import { Flag } from '../components/Flag';
import { HandInFrame } from '../components/HandInFrame';
import { useWide } from '../components/useWide';
import { Words } from '../components/Words';
import { downloadFile } from '../files/downloadFile';
import { readableBytes } from '../i18n/formats';
import { madeFromKey } from '../../core/handIn/madeFrom';
import { useStore } from 'zustand';
import type { BindSettings } from '../../core/handIn/bindSettings';
import type { StepLabel } from '../data/stepLabel';
import { useBoundFile, useEngine, useProfile } from '../engine/useEngine';
import type { BindingState } from '../jobs/binding';
import { fileNameOf, partName } from '../office/fileName';
import { withHandIn } from './withHandIn';
import { errorText } from '../i18n/errorText';

const MARGINS_MM = [0, 5, 10, 15] as const;

/** Name, limit and paper, then the file. */
export const BindScreen = withHandIn(function BindScreen({ handIn }: { readonly handIn: HandIn }) {
  const router = useRouter();
  const wide = useWide();
  const [previewing, setPreviewing] = useState(false);
  const { binding: binder, boundFiles } = useEngine();
  const profile = useProfile();
  const bind = useBind(handIn);
  const file = useBoundFile(handIn.id);
  const binding = useStore(binder.state, (s) => s.bindings[handIn.id]) ?? { state: 'idle' };
  useEffect(() => void boundFiles.load(handIn.id), [handIn.id, boundFiles]);
  useEffect(() => binder.ready(), [binder]);
  // what comes of it is shown at the top
  const scroll = useRef<ScrollView>(null);
  useEffect(() => {
    if (binding.state !== 'idle') scroll.current?.scrollTo({ y: 0 });
  }, [binding.state]);
  const pages = boundPages(handIn);
  const count = plural({ count: pages.length }, { one: '# page', other: '# pages' });
  const fresh = file !== undefined && file.madeFrom === madeFromKey(handIn);
  const download = (): void => {
    if (file === undefined) return;
    const name = fileNameOf(handIn, profile);
    if (file.parts.length > 1)
      file.parts.forEach((part, i) => downloadFile(part, partName(name, i + 1, file.parts.length)));
    else downloadFile(file.blob, name);
  };
  const next =
    binding.state === 'binding'
      ? { label: t`Binding, ${{ share: Math.round(100 * binding.share) }} %`, onPress: () => undefined, disabled: true }
      : pages.some(({ recipe }) => isPending(recipe))
        ? { label: t`Finding the paper first`, onPress: () => undefined, disabled: true }
        : pages.length === 0
          ? { label: t`Add photos first`, onPress: () => router.replace(`/hand-in/${handIn.id}`) }
          : fresh
            ? handIn.assignmentId === null
              ? { label: t`Download the PDF, ${{ size: readableBytes(file.blob.size) }}`, onPress: download }
              : { label: t`On to handing in`, onPress: () => router.replace(`/hand-in/${handIn.id}/hand-in`) }
            : { label: file === undefined ? t`Bind ${count}` : t`Bind ${count} again`, onPress: () => bind(false) };
  const result = (
    <View className="gap-4">
      <Progress handIn={handIn} binding={binding} />
      {file !== undefined && binding.state !== 'binding' ? (
        <BoundFileCard
          handIn={handIn}
          file={file}
          fresh={fresh}
          onPreview={() => setPreviewing(true)}
          onDownload={download}
        />
      ) : null}
    </View>
  );
  const settings = (
    <View className="gap-6">
      <NameTool handIn={handIn} />
      <LimitTool handIn={handIn} />
      <PaperTool handIn={handIn} />
      <InTheFile handIn={handIn} />
    </View>
  );
  return (
    <HandInFrame handIn={handIn} stage="bind" next={next}>
      {wide ? (
        <View className="flex-1 flex-row">
          <ScrollView
            className="flex-1 border-e border-rule-faint"
            contentContainerClassName="mx-auto w-full max-w-[600px] p-6"
          >
            {settings}
          </ScrollView>
          <ScrollView className="flex-1" contentContainerClassName="mx-auto w-full max-w-[560px] p-6">
            {result}
            {file === undefined && binding.state === 'idle' ? (
              <Words as="soft">{t`The file will lie here once it is bound.`}</Words>
            ) : null}
          </ScrollView>
        </View>
      ) : (
        <ScrollView ref={scroll} contentContainerClassName="mx-auto w-full max-w-[640px] gap-6 p-4">
          {result}
          {settings}
        </ScrollView>
      )}
      {previewing && file !== undefined ? (
        <FilePreview handIn={handIn} file={file} onClose={() => setPreviewing(false)} />
      ) : null}
    </HandInFrame>
  );
});

/** Binds, with the name and the profile as they are. */
function useBind(handIn: HandIn): (inParts: boolean) => void {
  const { binding } = useEngine();
  const profile = useProfile();
  return (inParts) => void binding.bind(handIn, { inParts, profile, nameOf: (bound) => fileNameOf(bound, profile) });
}

/** Sets how a hand-in is bound. */
function useSetBinding({ id: handInId }: HandIn): (binding: Partial<BindSettings>, key: StepLabel['key']) => void {
  const { dispatch } = useEngine();
  return (binding, key) => void dispatch({ kind: 'changeHandIn', handInId, binding, label: { key } });
}

function Progress({ handIn, binding }: { readonly handIn: HandIn; readonly binding: BindingState }) {
  const bind = useBind(handIn);
  const reading = useStore(useEngine().words.state, (s) => s.reading);
  if (binding.state === 'failed') {
    const { parts } = binding;
    return (
      <View className="gap-2">
        <Flag kind="broken" live>
          {errorText(binding.problem, t`The file could not be made. Reload, then bind again; your pages are kept.`)}
        </Flag>
        {parts > 1 ? (
          <View className="items-start">
            <Action label={t`Bind ${parts} numbered parts`} onPress={() => bind(true)} />
          </View>
        ) : null}
      </View>
    );
  }
  if (binding.state !== 'binding') return null;
  return (
    <View className="gap-2">
      <View
        role="progressbar"
        aria-label={t`Binding`}
        aria-valuenow={Math.round(binding.share * 100)}
        aria-valuemin={0}
        aria-valuemax={100}
        className="h-3 border border-rule bg-sheet"
      >
        <View className="h-full bg-beet" style={{ width: `${binding.share * 100}%` }} />
      </View>
      {reading?.handInId === handIn.id ? (
        <Words
          as="soft"
          className="tabular-nums"
        >{t`Reading page ${{ done: reading.done + 1 }} of ${{ of: reading.of }}`}</Words>
      ) : null}
      <View className="items-start">
        <Action label={t`Stop`} onPress={binding.stop} />
      </View>
    </View>
  );
}

function PaperTool({ handIn }: { readonly handIn: HandIn }) {
  const { dispatch } = useEngine();
  const setBinding = useSetBinding(handIn);
  const { marginMm, sameWidth } = handIn.binding;
  return (
    <View className="gap-2">
      <Words as="strong" nativeID="paper-label">
        {t`Paper`}
      </Words>
      <View role="group" aria-labelledby="paper-label" className="flex-row flex-wrap gap-2">
        {PAPERS.map((paper) => (
          <Action
            key={paper}
            label={t(PAPER_NAMES[paper])}
            spoken={`${t(PAPER_NAMES[paper])}${paper === handIn.paper ? t`, chosen` : ''}`}
            on={paper === handIn.paper}
            onPress={() => void dispatch({ kind: 'changeHandIn', handInId: handIn.id, paper, label: { key: 'paper' } })}
          />
        ))}
      </View>
      <Words as="strong" nativeID="margin-label">
        {t`Margin`}
      </Words>
      <View role="group" aria-labelledby="margin-label" className="flex-row flex-wrap gap-2">
        {MARGINS_MM.map((mm) => (
          <Action
            key={mm}
            label={mm === 0 ? t`None` : t`${mm} mm`}
            spoken={mm === 0 ? t`None: no margin` : t`${mm} mm margin`}
            on={mm === marginMm}
            onPress={() => setBinding({ marginMm: mm }, 'margin')}
          />
        ))}
      </View>
      <Switch
        label={t`All pages of one width`}
        says={t`Sideways pages are made as wide as upright ones.`}
        on={sameWidth}
        onChange={(on) => setBinding({ sameWidth: on }, 'sameWidth')}
      />
    </View>
  );
}

function InTheFile({ handIn }: { readonly handIn: HandIn }) {
  const setBinding = useSetBinding(handIn);
  const { searchable, cover, showMarks, author } = handIn.binding;
  return (
    <View className="gap-1">
      <Words as="strong">{t`In the file`}</Words>
      <Switch
        label={t`Words that can be searched`}
        says={t`Makes printed text searchable. Takes a few seconds a page.`}
        on={searchable}
        onChange={(on) => setBinding({ searchable: on }, 'searchable')}
      />
      <Switch
        label={t`Marks`}
        says={t`Pen, highlighter, notes and signature, here and in the file.`}
        on={showMarks}
        onChange={(on) => setBinding({ showMarks: on }, 'showMarks')}
      />
      <Switch
        label={t`Cover sheet`}
        says={t`Title, name, number and the list of pages, before page 1.`}
        on={cover}
        onChange={(on) => setBinding({ cover: on }, 'cover')}
      />
      <Switch
        label={t`My name as the author`}
        says={t`Where and when the photos were taken is never told.`}
        on={author}
        onChange={(on) => setBinding({ author: on }, 'author')}
      />
    </View>
  );
}

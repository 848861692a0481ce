import { t } from '@lingui/core/macro';
import { useLocalSearchParams, useRouter } from 'expo-router';
import { useEffect, useEffectEvent, useRef, useState } from 'react';
import { ScrollView, View } from 'react-native';
import { boundPages, type HandIn } from '../../core/work/hand-in/handIn';
import { PAPERS } from '../../core/work/paper/paperSize';
import { READ_LANGUAGES, type ReadLanguage } from '../../core/work/words/readLanguages';
import { isPending } from '../../core/work/recipe/recipe';
import { BoundFileCard } from '../features/bind/BoundFileCard';
import { FilePreview } from '../features/bind/FilePreview';
import { limitName, LimitTool } from '../features/bind/LimitTool';
import { NameTool } from '../features/bind/NameTool';
import { PAPER_NAMES } from '../features/bind/paperNames';
import { Switch } from '../ui/Switch';
import { BindProgress } from '../features/bind/BindProgress';
import { useBind } from '../features/bind/useBind';
import { Disclosure } from '../ui/Disclosure';
import { HandInFrame } from '../frame/HandInFrame';
import { useSideways } from '../ui/breakpoints';
import { LANGUAGE_NAMES } from '../i18n/languages';
import { ChoiceGroup } from '../ui/ChoiceGroup';
import { Text } from '../ui/Text';
import { downloadFile } from '../files/downloadFile';
import { madeFromKey } from '../../core/work/hand-in/madeFrom';
import { useStore } from 'zustand';
import type { BindSettings } from '../../core/work/hand-in/bindSettings';
import type { StepLabel } from '../data/stepLabel';
import { useBoundFile, useEngine, useProfile } from '../engine/useEngine';
import { fileNameOf, partName } from '../college/fileName';
import { nextAction } from './nextAction';
import { nextLabel } from './nextLabel';
import { withHandIn } from './withHandIn';

const READ_LANGUAGE_CODES = Object.keys(READ_LANGUAGES) as ReadLanguage[];
const MARGINS_MM = [0, 5, 10, 15] as const;

/** Name, limit and paper, then the file. */
export const BindScreen = withHandIn(function BindScreen({ handIn }: { readonly handIn: HandIn }) {
  const router = useRouter();
  const wide = useSideways();
  const [previewing, setPreviewing] = useState(false);
  const { binding: binder, boundFiles } = useEngine();
  const profile = useProfile();
  const bind = useBind();
  const file = useBoundFile(handIn.id);
  const binding = useStore(binder.state, (s) => s.bindings[handIn.id]) ?? { state: 'idle' };
  const { now } = useLocalSearchParams<{ now?: string }>();
  useEffect(() => void boundFiles.load(handIn.id), [handIn.id, boundFiles]);
  useEffect(() => binder.ready(), [binder]);
  // what comes of it is shown at the top
  const scroll = useRef<ScrollView>(null);
  useEffect(() => {
    if (binding.state !== 'idle') scroll.current?.scrollTo({ y: 0 });
  }, [binding.state]);
  const pages = boundPages(handIn);
  const fresh = file !== undefined && file.madeFrom === madeFromKey(handIn);
  // whoever came here by “Bind 3 pages” has asked for it already
  const asked =
    now === '1' &&
    binding.state === 'idle' &&
    !fresh &&
    pages.length > 0 &&
    pages.every(({ recipe }) => !isPending(recipe));
  const startAsked = useEffectEvent(() => {
    router.setParams({ now: undefined });
    bind(handIn);
  });
  useEffect(() => {
    if (asked) startAsked();
  }, [asked]);
  const download = (): void => {
    if (file === undefined) return;
    const name = fileNameOf(handIn, profile);
    if (file.parts.length > 1)
      file.parts.forEach((part, i) => downloadFile(part, partName(name, i + 1, file.parts.length)));
    else downloadFile(file.blob, name);
  };
  const action = nextAction({
    stage: 'bind',
    pages: pages.length,
    pending: pages.some(({ recipe }) => isPending(recipe)),
    binding: binding.state === 'binding' ? binding.share : null,
    file: file === undefined ? 'none' : fresh ? 'fresh' : 'stale',
    hasAssignment: handIn.assignmentId !== null,
  });
  const next = {
    label: nextLabel(action, file?.blob.size),
    disabled: action.does === 'wait',
    onPress: () => {
      if (action.does === 'addPhotos') router.replace(`/hand-in/${handIn.id}`);
      else if (action.does === 'download') download();
      else if (action.does === 'goToHandIn') router.replace(`/hand-in/${handIn.id}/hand-in`);
      else bind(handIn);
    },
  };
  const result = (
    <View className="gap-4">
      <BindProgress handIn={handIn} binding={binding} />
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
      <View>
        <Disclosure title={t`Limit`} summary={limitName(handIn.binding.maxBytes)}>
          <LimitTool handIn={handIn} />
        </Disclosure>
        <Disclosure title={t`Paper`} summary={paperSays(handIn)}>
          <PaperTool handIn={handIn} />
        </Disclosure>
        <Disclosure title={t`In the file`} summary={inTheFileSays(handIn)}>
          <InTheFile handIn={handIn} />
        </Disclosure>
      </View>
    </View>
  );
  const beside = (
    <ScrollView contentContainerClassName="gap-4 p-4">
      {result}
      {file === undefined && binding.state === 'idle' ? (
        <Text variant="soft">{t`The file will lie here once it is bound.`}</Text>
      ) : null}
    </ScrollView>
  );
  return (
    <HandInFrame handIn={handIn} stage="bind" next={next} aside={{ width: 'file', content: beside }}>
      <ScrollView ref={scroll} contentContainerClassName="mx-auto w-full max-w-[640px] gap-6 p-4">
        {wide ? null : result}
        {settings}
      </ScrollView>
      {previewing && file !== undefined ? (
        <FilePreview handIn={handIn} file={file} onClose={() => setPreviewing(false)} />
      ) : null}
    </HandInFrame>
  );
});

/** Sets how a hand-in is bound. */
function useSetBinding({ id: handInId }: HandIn): (binding: Partial<BindSettings>, key: StepLabel['key']) => void {
  const { dispatch } = useEngine();
  return (binding, key) => void dispatch({ kind: 'changeHandIn', handInId, binding, label: { key } });
}

/** The paper, and what differs from a plain page. */
function paperSays({ paper, binding: { marginMm, sameWidth } }: HandIn): string {
  return [
    t(PAPER_NAMES[paper]),
    ...(marginMm > 0 ? [t`${{ mm: marginMm }} mm margin`] : []),
    ...(sameWidth ? [t`one width for all`] : []),
  ].join(', ');
}

function inTheFileSays({ binding: { searchable, language, showMarks, cover, author } }: HandIn): string {
  const parts = [
    ...(searchable ? [t`searchable words, ${{ language: LANGUAGE_NAMES[language] }}`] : []),
    ...(showMarks ? [t`marks`] : []),
    ...(cover ? [t`cover sheet`] : []),
    ...(author ? [t`my name`] : []),
  ];
  return parts.length === 0 ? t`pages only` : t`pages, ${{ parts: parts.join(', ') }}`;
}

function PaperTool({ handIn }: { readonly handIn: HandIn }) {
  const { dispatch } = useEngine();
  const setBinding = useSetBinding(handIn);
  const { marginMm, sameWidth } = handIn.binding;
  return (
    <View className="gap-2">
      <ChoiceGroup
        label={t`Paper`}
        choices={PAPERS.map((paper) => ({ value: paper, label: t(PAPER_NAMES[paper]) }))}
        value={handIn.paper}
        onChange={(paper) =>
          void dispatch({ kind: 'changeHandIn', handInId: handIn.id, paper, label: { key: 'paper' } })
        }
      />
      <Text variant="strong" nativeID="margin-label">
        {t`Margin`}
      </Text>
      <ChoiceGroup
        labelledBy="margin-label"
        choices={MARGINS_MM.map((mm) => ({
          value: mm,
          label: mm === 0 ? t`None` : t`${mm} mm`,
          accessibilityLabel: mm === 0 ? t`None: no margin` : t`${mm} mm margin`,
        }))}
        value={marginMm}
        onChange={(mm) => setBinding({ marginMm: mm }, 'margin')}
      />
      <Switch
        label={t`All pages of one width`}
        description={t`Sideways pages are made as wide as upright ones.`}
        checked={sameWidth}
        onChange={(on) => setBinding({ sameWidth: on }, 'sameWidth')}
      />
    </View>
  );
}

function InTheFile({ handIn }: { readonly handIn: HandIn }) {
  const setBinding = useSetBinding(handIn);
  const { searchable, language, cover, showMarks, author } = handIn.binding;
  return (
    <View className="gap-1">
      <Switch
        label={t`Words that can be searched`}
        description={t`Makes printed text searchable. Takes a few seconds a page.`}
        checked={searchable}
        onChange={(on) => setBinding({ searchable: on }, 'searchable')}
      />
      <View className="gap-1 py-1">
        <Text variant="strong" nativeID="language-label">
          {t`Language of the pages`}
        </Text>
        <ChoiceGroup
          labelledBy="language-label"
          choices={READ_LANGUAGE_CODES.map((code) => ({ value: code, label: LANGUAGE_NAMES[code] }))}
          value={language}
          onChange={(code) => setBinding({ language: code }, 'language')}
        />
      </View>
      <Switch
        label={t`Marks`}
        description={t`Pen, highlighter, notes and signature, here and in the file.`}
        checked={showMarks}
        onChange={(on) => setBinding({ showMarks: on }, 'showMarks')}
      />
      <Switch
        label={t`Cover sheet`}
        description={t`Title, name, number and the list of pages, before page 1.`}
        checked={cover}
        onChange={(on) => setBinding({ cover: on }, 'cover')}
      />
      <Switch
        label={t`My name as the author`}
        description={t`Where and when the photos were taken is never told.`}
        checked={author}
        onChange={(on) => setBinding({ author: on }, 'author')}
      />
    </View>
  );
}

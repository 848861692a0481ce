import { plural, t } from '@lingui/core/macro';
import { useLocalSearchParams, useRouter } from 'expo-router';
import { useEffect, useState } from 'react';
import { ScrollView, View } from 'react-native';
import { boundPages } from '../../core/work/hand-in/handIn';
import { useDocuments, useEngine } from '../engine/useEngine';
import { useNewHandIn } from '../features/desk/useNewHandIn';
import { workingTitle } from '../format/workingTitle';
import { readableBytes } from '../i18n/formats';
import { onOpenedWith, sharedFiles, type SharedFile } from '../photos/sharedFiles';
import { Button } from '../ui/Button';
import { EmptyState } from '../ui/EmptyState';
import { PrimaryBar } from '../ui/PrimaryBar';
import { StatusMessage } from '../ui/StatusMessage';
import { Text } from '../ui/Text';

/** Hand-ins offered beside a new one, those changed last. */
const MOST_OFFERED = 5;

const couldNotOpen = (names: readonly string[]): string =>
  t`Not opened: ${{ names: names.join(', ') }}. Moved or locked in the meantime. Find it and open it again.`;

/** What came from a share sheet or was opened with the app: a new hand-in, or pages of one that is there. */
export function SharedScreen() {
  const router = useRouter();
  const { intake } = useEngine();
  const { missed } = useLocalSearchParams<{ missed?: string }>();
  const { alone } = useNewHandIn();
  const handIns = useDocuments((s) => s.handIns);
  const loading = useDocuments((s) => s.loading);
  const [files, setFiles] = useState<readonly SharedFile[] | null>(null);
  const [gone, setGone] = useState<readonly string[]>([]);
  const [taken, setTaken] = useState(false);
  useEffect(() => {
    void sharedFiles().then(
      (shared) => setFiles((opened) => [...shared, ...(opened ?? [])]),
      () => setFiles((opened) => opened ?? []),
    );
    onOpenedWith((opened, lost) => {
      setFiles((shared) => [...(shared ?? []), ...opened]);
      setGone(lost);
    });
  }, []);
  const there = Object.values(handIns).filter(({ removedAtMs }) => removedAtMs === null);
  const offered = [...there].sort((a, b) => b.changedAtMs - a.changedAtMs).slice(0, MOST_OFFERED);
  const take = (handInId: string): void => {
    // until all are safe on this device they stay where they are: what came twice is pointed out
    const given = files ?? [];
    void intake
      .take(
        handInId,
        given.map(({ file }) => file),
      )
      .then(() => {
        const { items } = intake.state.getState();
        const lacksRoom = items.some((item) => item.handInId === handInId && item.problem?.code.startsWith('STORAGE_'));
        if (!lacksRoom) for (const { forget } of given) void forget();
      });
    router.replace(`/hand-in/${handInId}`);
  };
  const startNew = (): void => {
    setTaken(true);
    void alone(
      workingTitle(
        new Date(),
        there.map(({ title }) => title),
      ),
    ).then(take);
  };
  const toDesk = { label: t`To the desk`, onPress: () => router.replace('/') };
  if (files === null || loading === 'loading')
    return <EmptyState title={t`Loading …`} text={t`What was shared is being fetched.`} />;
  if (files.length === 0)
    return (
      <View className="flex-1 bg-paper">
        <View role="main" className="flex-1">
          {gone.length > 0 ? (
            <EmptyState title={t`Nothing could be opened`} text={couldNotOpen(gone)} />
          ) : missed === undefined ? (
            <EmptyState
              title={t`Nothing was shared`}
              text={t`Share photos, PDFs or a zip of them with Fotoplan, and they come up here.`}
            />
          ) : (
            <EmptyState
              title={t`What was shared did not arrive`}
              text={t`Free some space on this device, open Fotoplan once with a connection, then share it again. Nothing was changed where it came from.`}
            />
          )}
        </View>
        <PrimaryBar {...toDesk} />
      </View>
    );
  const count = files.length;
  return (
    <View className="flex-1 bg-paper">
      <View role="banner" className="border-b border-rule-faint px-4 py-3">
        <Text variant="title">{t`Shared with Fotoplan`}</Text>
        <Text variant="soft">{plural(count, { one: '# file', other: '# files' })}</Text>
      </View>
      <ScrollView role="main" className="flex-1" contentContainerClassName="mx-auto w-full max-w-[640px] gap-6 p-4">
        <View role="list" aria-label={t`Files shared`} className="gap-1">
          {files.map(({ file }, i) => (
            <View key={i} role="listitem" className="flex-row justify-between gap-3">
              <Text numberOfLines={1} className="flex-1">
                {file.name}
              </Text>
              <Text variant="soft" className="tabular-nums">
                {readableBytes(file.size)}
              </Text>
            </View>
          ))}
        </View>
        {gone.length === 0 ? null : <StatusMessage status="error">{couldNotOpen(gone)}</StatusMessage>}
        {offered.length === 0 ? null : (
          <View className="gap-2">
            <Text variant="strong">{t`Add them to a hand-in that is there`}</Text>
            {offered.map((handIn) => (
              <Button
                key={handIn.id}
                label={handIn.title}
                accessibilityLabel={t`${{ title: handIn.title }}: add to its ${plural(
                  { count: boundPages(handIn).length },
                  { one: '# page', other: '# pages' },
                )}`}
                disabled={taken}
                onPress={() => {
                  setTaken(true);
                  take(handIn.id);
                }}
              />
            ))}
          </View>
        )}
        <View className="items-start">
          <Button
            variant="text"
            label={t`Discard`}
            accessibilityLabel={t`Discard: add none of them`}
            onPress={() => void Promise.all(files.map(({ forget }) => forget())).then(toDesk.onPress)}
          />
        </View>
      </ScrollView>
      <PrimaryBar
        label={plural(count, { one: 'New hand-in with # file', other: 'New hand-in with # files' })}
        disabled={taken}
        onPress={startNew}
      />
    </View>
  );
}

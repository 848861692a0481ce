import { t } from '@lingui/core/macro';
import MonitorSmartphone from 'lucide-react-native/icons/monitor-smartphone';
import Settings from 'lucide-react-native/icons/settings';
import UserRound from 'lucide-react-native/icons/user-round';
import { useLocalSearchParams, useRouter } from 'expo-router';
import { useEffect, useEffectEvent, useRef, useState } from 'react';
import { ScrollView, View } from 'react-native';
import type { HandIn } from '../../core/work/hand-in/handIn';
import { Button } from '../ui/Button';
import { PrimaryBar } from '../ui/PrimaryBar';
import { SyncStatus } from '../frame/SyncStatus';
import { Text } from '../ui/Text';
import { workingTitle } from '../format/workingTitle';
import { changeSettings, useSettingsStore } from '../preferences/settingsStore';
import { useWide } from '../ui/breakpoints';
import { later } from './later';
import { deskRows } from '../features/desk/deskRows';
import { DeskStack } from '../features/desk/DeskStack';
import { useNow } from '../format/useNow';
import { useOfficeStore } from '../college/officeStore';
import { UnsavedBanner } from '../frame/UnsavedBanner';
import { LetGoHere } from '../photos/LetGoHere';
import { useFileDrop } from '../photos/useFileDrop';
import { useNewHandIn } from '../features/desk/useNewHandIn';
import { useDocuments, useEngine } from '../engine/useEngine';
import { EmptyState } from '../ui/EmptyState';
import { errorText } from '../i18n/errorText';

/* What few see, or only once, is not loaded with the first screen. */
const Welcome = later(() => import('../features/desk/Welcome').then(({ Welcome: Screen }) => Screen));
const DeletedNotice = later(
  () => import('../features/desk/deleted/DeletedNotice').then(({ DeletedNotice: Notice }) => Notice),
  'nothing',
);
const RecoveryOffer = later(
  () => import('../features/export-import/recovery/RecoveryOffer').then(({ RecoveryOffer: Offer }) => Offer),
  'nothing',
);
const SharedOffer = later(
  () => import('../features/desk/SharedOffer').then(({ SharedOffer: Offer }) => Offer),
  'nothing',
);
/** With its table: fetched only where there is width for it. */
const WideDesk = later(() => import('../features/desk/WideDesk').then(({ WideDesk: Desk }) => Desk));

/** All hand-ins as little stacks, what is due first on top. */
export function DeskScreen() {
  const router = useRouter();
  const engine = useEngine();
  const { alone } = useNewHandIn();
  const handIns = useDocuments((s) => s.handIns);
  const loading = useDocuments((s) => s.loading);
  const problem = useDocuments((s) => s.problem);
  const shown = Object.values(handIns).filter(({ removedAtMs }) => removedAtMs === null);
  const [deleted, setDeleted] = useState<HandIn | null>(null);
  const remove = (handIn: HandIn): void =>
    void engine.dispatch({ kind: 'deleteHandIn', handInId: handIn.id }).then(() => setDeleted(handIn));
  const welcomeSeen = useSettingsStore((s) => s.welcomeSeen);
  const now = useNow();
  const assignments = useOfficeStore((s) => s.assignments);
  const receipts = useOfficeStore((s) => s.receipts);
  // what is due decides the order: laid out before it is known, a row would move from under the finger
  const dueKnown = useOfficeStore((s) => s.asked);
  const rows = deskRows(shown, assignments, receipts, now);
  const begin = (): Promise<string> =>
    alone(
      workingTitle(
        new Date(),
        shown.map(({ title }) => title),
      ),
    );
  const start = (): void => void begin().then((id) => router.push(`/hand-in/${id}`));
  const dropping = useFileDrop(({ files, leftOut }) => {
    void begin().then((id) => {
      void engine.intake.take(id, files, { leftOut });
      router.push(`/hand-in/${id}`);
    });
  });
  // from a shortcut of the installed app; once hand-ins are known, so that the new one has a title of its own
  const { start: asked } = useLocalSearchParams<{ start?: 'new' | 'shoot' }>();
  const startAsked = useEffectEvent(() => {
    router.setParams({ start: undefined });
    void begin().then((id) => router.push(asked === 'shoot' ? `/hand-in/${id}/shoot` : `/hand-in/${id}`));
  });
  const started = useRef(false);
  useEffect(() => {
    if (asked === undefined || loading === 'loading' || started.current) return;
    started.current = true;
    startAsked();
  }, [asked, loading]);
  const next = { label: t`Start a new hand-in`, onPress: start };
  const wide = useWide();
  if (!welcomeSeen)
    return (
      <Welcome
        next={{
          ...next,
          onPress: () => {
            changeSettings({ welcomeSeen: true });
            start();
          },
        }}
        onSkip={() => changeSettings({ welcomeSeen: true })}
      />
    );
  return (
    <View className="flex-1 bg-paper">
      <View role="banner" className="border-b border-rule-faint px-4 py-3">
        <View className="flex-row flex-wrap items-center justify-between">
          <Text variant="title">Fotoplan</Text>
          <View className="-mx-2 max-w-full flex-row flex-wrap">
            <Button
              variant="text"
              label={t`Link`}
              accessibilityLabel={t`Link phone and laptop`}
              icon={MonitorSmartphone}
              onPress={() => router.push('/link')}
            />
            <Button
              variant="text"
              label={t`You`}
              accessibilityLabel={t`You: name, number, accounts`}
              icon={UserRound}
              onPress={() => router.push('/profile')}
            />
            <Button variant="text" label={t`Settings`} icon={Settings} onPress={() => router.push('/settings')} />
          </View>
        </View>
        <SyncStatus />
      </View>
      <UnsavedBanner />
      <View role="main" className="flex-1">
        {loading === 'failed' ? (
          <EmptyState
            title={t`Your hand-ins could not be loaded`}
            text={problem === null ? '' : errorText(problem, t`Something on this device broke. Reload to try again.`)}
          >
            <Button label={t`Try again`} onPress={() => void engine.loadAgain()} />
          </EmptyState>
        ) : !dueKnown || (shown.length === 0 && loading === 'loading') ? (
          <EmptyState title={t`Loading your hand-ins …`} text={t`From this device, and from the server.`} />
        ) : rows.length === 0 ? (
          <EmptyState
            title={t`The desk is empty`}
            text={t`Photograph the pages of one piece of work, and Fotoplan makes them into one PDF: straight, white and in order.`}
          />
        ) : wide ? (
          <View className="flex-1">
            <RecoveryOffer handIns={shown} />
            <WideDesk rows={rows} nowMs={now} onDelete={remove} next={next} />
          </View>
        ) : (
          <ScrollView contentContainerClassName="mx-auto w-full max-w-[1100px] p-2">
            <RecoveryOffer handIns={shown} />
            <View role="list" aria-label={t`Hand-ins`} className="flex-row flex-wrap">
              {rows.map((row) => (
                <View key={row.handIn?.id ?? row.assignment?.id} role="listitem" className="w-full p-2 md:w-1/2">
                  <DeskStack row={row} nowMs={now} onDelete={remove} />
                </View>
              ))}
            </View>
          </ScrollView>
        )}
      </View>
      <SharedOffer />
      {deleted === null ? null : <DeletedNotice handIn={deleted} onDone={() => setDeleted(null)} />}
      {wide && rows.length > 0 ? null : <PrimaryBar {...next} />}
      {dropping ? <LetGoHere says={t`Let go to begin a hand-in with them`} /> : null}
    </View>
  );
}

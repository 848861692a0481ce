import { plural, t } from '@lingui/core/macro';
import Camera from 'lucide-react-native/icons/camera';
import FileText from 'lucide-react-native/icons/file-text';
import LayoutGrid from 'lucide-react-native/icons/layout-grid';
import Send from 'lucide-react-native/icons/send';
import { useRouter } from 'expo-router';
import type { ReactNode } from 'react';
import { View } from 'react-native';
import { boundPages, type HandIn } from '../../core/work/hand-in/handIn';
import { readableBytes } from '../i18n/formats';
import { madeFromKey } from '../../core/work/hand-in/madeFrom';
import { useOfficeStore } from '../college/officeStore';
import { useStore } from 'zustand';
import { redoText, undoText } from '../i18n/stepText';
import { useBoundFile, useEngine } from '../engine/useEngine';
import { useSettingsStore } from '../preferences/settingsStore';
import { Button } from '../ui/Button';
import { LetGoHere } from '../photos/LetGoHere';
import { useFileDrop } from '../photos/useFileDrop';
import { MarksShown } from '../page-picture/PageMarks';
import { PrimaryBar } from '../ui/PrimaryBar';
import { useStacked, useSideways } from '../ui/breakpoints';
import { useUndoKeys } from './useUndoKeys';
import { SyncStatus } from './SyncStatus';
import { UnsavedBanner } from './UnsavedBanner';
import { Spine } from './Spine';
import { Text } from '../ui/Text';
import { BackIcon, RedoIcon, UndoIcon } from '../ui/directionalIcons';

interface HandInFrameProps {
  readonly handIn: HandIn;
  readonly stage: 'pages' | 'bind' | 'handIn';
  readonly next: { readonly label: string; readonly onPress: () => void; readonly disabled?: boolean };
  /** A tool with steps of its own is open: those of the hand-in wait until it is closed. */
  readonly ownSteps?: boolean;
  /** What stands beside the rest where there is width for it, with the next thing at its foot. */
  readonly aside?: { readonly width: 'tools' | 'file'; readonly content: ReactNode };
  readonly children: ReactNode;
}

/** Around every stage of a hand-in: its name, what is saved, undo, the spine and the next thing. */
export function HandInFrame({ handIn, stage, next, ownSteps = false, aside, children }: HandInFrameProps) {
  const router = useRouter();
  const { documents, intake } = useEngine();
  const latest = useStore(documents.histories, (s) => s.histories[handIn.id]?.done.at(-1)?.label);
  const undone = useStore(documents.histories, (s) => s.histories[handIn.id]?.undone.at(-1)?.label);
  const undo = (): void => void documents.undo(handIn.id);
  const redo = (): void => void documents.redo(handIn.id);
  useUndoKeys(undo, redo, !ownSteps);
  const sideways = useSideways();
  const stacked = useStacked();
  const beside = sideways ? aside : undefined;
  const leftHanded = useSettingsStore((s) => s.leftHanded);
  const file = useBoundFile(handIn.id);
  const pages = boundPages(handIn).length;
  const receipts = useOfficeStore(
    (s) => s.receipts.filter((receipt) => receipt.assignmentId === handIn.assignmentId && !receipt.withdrawn).length,
  );
  const dropping = useFileDrop(({ files, leftOut }) => void intake.take(handIn.id, files, { leftOut }));
  const fresh = file !== undefined && file.madeFrom === madeFromKey(handIn);
  return (
    <MarksShown.Provider value={handIn.binding.showMarks}>
      <View className="flex-1 bg-paper">
        <View
          role="banner"
          className="min-h-[56px] flex-row flex-wrap content-center items-center justify-between gap-x-1 border-b border-rule-faint px-1"
        >
          <Button
            variant="text"
            label={t`Desk`}
            icon={BackIcon}
            onPress={() => router.replace('/')}
            accessibilityLabel={t`Desk: back to it`}
          />
          <View className={stacked ? 'order-last w-full px-2' : 'flex-1 px-1'}>
            <Text variant="title" className="text-head" numberOfLines={1}>
              {handIn.title}
            </Text>
            <SyncStatus />
          </View>
          {ownSteps ? null : (
            <>
              <Button
                variant="text"
                label={t`Undo`}
                icon={UndoIcon}
                shortcut="undo"
                disabled={latest === undefined}
                accessibilityLabel={latest === undefined ? t`Undo: nothing to undo` : undoText(latest)}
                onPress={undo}
              />
              {undone === undefined ? null : (
                <Button
                  variant="text"
                  label={t`Redo`}
                  icon={RedoIcon}
                  shortcut="redo"
                  accessibilityLabel={redoText(undone)}
                  onPress={redo}
                />
              )}
            </>
          )}
        </View>
        <UnsavedBanner />
        <View className={`flex-1 ${stacked ? '' : leftHanded ? 'flex-row-reverse' : 'flex-row'}`}>
          <Spine
            stitches={[
              {
                label: t`Shoot`,
                fact: t`camera`,
                icon: Camera,
                href: `/hand-in/${handIn.id}/shoot`,
                current: false,
                done: pages > 0,
              },
              {
                label: t`Pages`,
                fact: plural(pages, { one: '# page', other: '# pages' }),
                icon: LayoutGrid,
                href: `/hand-in/${handIn.id}`,
                current: stage === 'pages',
                done: pages > 0,
              },
              {
                label: t`Bind`,
                fact: fresh ? readableBytes(file.blob.size) : t`not yet`,
                icon: FileText,
                href: `/hand-in/${handIn.id}/bind`,
                current: stage === 'bind',
                done: fresh,
              },
              {
                label: t`Hand in`,
                fact: receipts > 0 ? t`received` : t`not yet`,
                icon: Send,
                href: `/hand-in/${handIn.id}/hand-in`,
                current: stage === 'handIn',
                done: receipts > 0,
              },
            ]}
          />
          <View className={`flex-1 ${leftHanded ? 'flex-row-reverse' : 'flex-row'}`}>
            <View role="main" className="flex-1">
              {children}
            </View>
            {beside === undefined ? null : (
              <View
                className={`${beside.width === 'tools' ? 'w-[300px]' : 'w-[38%] min-w-[300px]'} border-s border-rule-faint`}
              >
                <View className="flex-1">{beside.content}</View>
                <PrimaryBar {...next} />
              </View>
            )}
          </View>
        </View>
        {beside === undefined ? <PrimaryBar {...next} /> : null}
        {dropping ? <LetGoHere says={t`Let go to add them as pages`} /> : null}
      </View>
    </MarksShown.Provider>
  );
}

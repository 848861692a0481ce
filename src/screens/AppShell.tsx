import { AtkinsonHyperlegibleNext_400Regular } from '@expo-google-fonts/atkinson-hyperlegible-next/400Regular';
import { AtkinsonHyperlegibleNext_600SemiBold } from '@expo-google-fonts/atkinson-hyperlegible-next/600SemiBold';
import { BricolageGrotesque_600SemiBold } from '@expo-google-fonts/bricolage-grotesque/600SemiBold';
import { useFonts } from 'expo-font';
import { Slot } from 'expo-router';
import { useEffect } from 'react';
import { View } from 'react-native';
import { refreshOffice } from '../office/officeStore';
import { startFinding } from '../stores/findStore';
import { loadHandIns } from '../stores/handInStore';
import { loadHistories } from '../stores/historyStore';
import { startLive, useLiveStore } from '../stores/liveStore';
import { loadProfile } from '../stores/profileStore';
import { loadSeen } from '../stores/seenStore';
import { askToKeep, keepAppOnDevice } from '../sync/serviceWorker';
import { CutOffScreen } from './CutOffScreen';
import { startSync } from '../stores/syncStore';

/** Around every screen: fonts, and the loading and sending of hand-ins. */
export function AppShell() {
  useFonts({ AtkinsonHyperlegibleNext_400Regular, AtkinsonHyperlegibleNext_600SemiBold, BricolageGrotesque_600SemiBold });
  useEffect(() => {
    void loadHistories();
    void loadSeen();
    keepAppOnDevice();
    askToKeep();
    void loadHandIns().then(() => {
      void startSync();
      void startFinding();
      void loadProfile();
      void refreshOffice();
      startLive();
    });
  }, []);
  const cutOff = useLiveStore((s) => s.cutOff);
  return (
    <View className="flex-1 bg-paper">
      {cutOff ? <CutOffScreen /> : <Slot />}
    </View>
  );
}

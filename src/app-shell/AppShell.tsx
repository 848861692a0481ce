import { t } from '@lingui/core/macro';
import { AtkinsonHyperlegibleNext_400Regular } from '@expo-google-fonts/atkinson-hyperlegible-next/400Regular';
import { AtkinsonHyperlegibleNext_600SemiBold } from '@expo-google-fonts/atkinson-hyperlegible-next/600SemiBold';
import { BricolageGrotesque_600SemiBold } from '@expo-google-fonts/bricolage-grotesque/600SemiBold';
import { NotoSansArabic_400Regular } from '@expo-google-fonts/noto-sans-arabic/400Regular';
import { NotoSansArabic_600SemiBold } from '@expo-google-fonts/noto-sans-arabic/600SemiBold';
import { loadAsync, useFonts } from 'expo-font';
import { Slot } from 'expo-router';
import { useEffect, useState } from 'react';
import { View } from 'react-native';
import { useStore } from 'zustand';
import { askToKeep } from '../../platform/browser/storageUse';
import { EngineContext } from '../engine/useEngine';
import { refreshOffice } from '../college/officeStore';
import { useLanguage } from '../i18n/useLanguage';
import { fetchLaterScreens } from '../screens/laterScreens';
import { useSettingsStore } from '../preferences/settingsStore';
import { createBrowserEngine } from './createBrowserEngine';
import { ErrorBoundary } from './ErrorBoundary';
import { keepAppOnDevice } from './keepAppOnDevice';
import { ClosedScreen, StartingScreen, UnlinkedScreen } from './deviceScreens';
import { NoticeBar } from './NoticeBar';
import { UnexpectedNotice } from './UnexpectedNotice';

/** Around every screen: fonts, the engine, and what is shown when a screen breaks or this device may not go on. */
export function AppShell() {
  useFonts({
    AtkinsonHyperlegibleNext_400Regular,
    AtkinsonHyperlegibleNext_600SemiBold,
    BricolageGrotesque_600SemiBold,
  });
  const language = useLanguage(useSettingsStore((s) => s.language));
  const [engine] = useState(createBrowserEngine);
  const { running, problem, unlinked, left, closed, blocked } = useStore(engine.device);
  useEffect(() => {
    // until it has come, and where it cannot, the device's own face is read
    if (language === 'ar')
      void loadAsync({ NotoSansArabic_400Regular, NotoSansArabic_600SemiBold }).catch(() => undefined);
  }, [language]);
  useEffect(() => {
    keepAppOnDevice();
    void askToKeep();
    void engine.start();
  }, [engine]);
  useEffect(() => {
    if (running === null) return;
    void running.loaded.then(fetchLaterScreens);
    // the office knows this device by the server's first answer
    void running.loaded.then(() => refreshOffice(running.profile));
    const onLine = (): void => running.hurry();
    window.addEventListener('online', onLine);
    return () => window.removeEventListener('online', onLine);
  }, [running]);
  if (language === null) return <View className="flex-1 bg-paper" />;
  return (
    // another language is another tree: no sentence of the one before stays; what is kept stays in the engine
    <View key={language} className="flex-1 bg-paper">
      {closed !== null ? (
        <ClosedScreen why={closed} />
      ) : running === null ? (
        <StartingScreen problem={problem} blocked={blocked} onTryAgain={() => void engine.start()} />
      ) : unlinked ? (
        <UnlinkedScreen engine={running} />
      ) : (
        <EngineContext.Provider value={running}>
          <UnexpectedNotice />
          {left ? (
            <NoticeBar
              role="status"
              kind="warning"
              text={t`This device was unlinked. It shows your own hand-ins again.`}
              onClose={() => engine.device.setState({ left: false })}
            />
          ) : null}
          <ErrorBoundary>
            <Slot />
          </ErrorBoundary>
        </EngineContext.Provider>
      )}
    </View>
  );
}

import { t } from '@lingui/core/macro';
import { useRouter } from 'expo-router';
import { useState } from 'react';
import { ScrollView, View } from 'react-native';
import { expo } from '../../app.json';
import { Button } from '../ui/Button';
import { PrimaryBar } from '../ui/PrimaryBar';
import { ChoiceGroup } from '../ui/ChoiceGroup';
import { Text } from '../ui/Text';
import { LANGUAGE_NAMES, LANGUAGES } from '../i18n/languages';
import { changeSettings, useSettingsStore, type Settings } from '../preferences/settingsStore';
import { BringInTool } from '../features/export-import/BringInTool';
import { TakeAlongTool } from '../features/export-import/TakeAlongTool';
import { Tips } from '../features/camera/Tips';
import { useDocuments } from '../engine/useEngine';
import { RecoveryTool } from '../features/export-import/recovery/RecoveryTool';
import { DeleteEverythingTool } from '../features/settings/DeleteEverythingTool';
import { SpaceTool } from '../features/settings/SpaceTool';

type Choice<K extends keyof Settings> = { readonly value: Settings[K]; readonly name: string };

/** What a person likes, kept on this device. */
export function SettingsScreen() {
  const router = useRouter();
  const [tips, setTips] = useState(false);
  const known = useDocuments((s) => s.handIns);
  const handIns = Object.values(known).filter(({ removedAtMs }) => removedAtMs === null);
  return (
    <View className="flex-1 bg-paper">
      <View role="banner" className="border-b border-rule-faint px-4 py-3">
        <Text variant="title">{t`Settings`}</Text>
        <Text variant="soft">{t`For this device`}</Text>
      </View>
      <ScrollView role="main" className="flex-1" contentContainerClassName="mx-auto w-full max-w-[640px] gap-6 p-4">
        <Setting
          of="language"
          title={t`Language`}
          says={t`What is on your pages stays as it is.`}
          choices={[
            { value: null, name: t`As on this device` },
            ...LANGUAGES.map((language) => ({ value: language, name: LANGUAGE_NAMES[language] })),
          ]}
        />
        <Setting
          of="resolution"
          title={t`Photo resolution`}
          says={t`Full shows the smallest print; half makes smaller files.`}
          choices={[
            { value: 'high', name: t`Full` },
            { value: 'normal', name: t`Half` },
          ]}
        />
        <Setting
          of="handsFree"
          title={t`Hands-free shutter`}
          says={t`Whether it is on when the camera opens. It can be switched there at any time.`}
          choices={[
            { value: false, name: t`Off at first` },
            { value: true, name: t`On at first` },
          ]}
        />
        <Setting
          of="leftHanded"
          title={t`Layout`}
          says={t`Which side the stages and the camera’s buttons are on.`}
          choices={[
            { value: false, name: t`Right-handed` },
            { value: true, name: t`Left-handed` },
          ]}
        />
        <Setting
          of="sound"
          title={t`Sound`}
          says={t`A short tick when a page is kept.`}
          choices={[
            { value: true, name: t`On` },
            { value: false, name: t`Off` },
          ]}
        />
        <Setting
          of="vibration"
          title={t`Vibration`}
          says={t`A short buzz when a page is kept, where the device can.`}
          choices={[
            { value: true, name: t`On` },
            { value: false, name: t`Off` },
          ]}
        />
        <View className="items-start">
          <Button label={t`Show the tips again`} onPress={() => setTips(true)} />
        </View>
        <View className="gap-2">
          <Text variant="head">{t`Export and import`}</Text>
          <TakeAlongTool handIns={handIns} label={t`Everything as one zip`} />
          <BringInTool />
        </View>
        <RecoveryTool />
        <View className="gap-2">
          <Text variant="head">{t`Deleted`}</Text>
          <Text tone="soft">{t`Deleted hand-ins and pages can be restored for 30 days.`}</Text>
          <View className="items-start">
            <Button label={t`Show what was deleted`} onPress={() => router.push('/deleted')} />
          </View>
        </View>
        <SpaceTool />
        <DeleteEverythingTool />
        <View className="items-start gap-2">
          <Text tone="soft">{t`Version ${{ version: expo.version }}`}</Text>
          <Button label={t`Licences`} onPress={() => window.open('/THIRD_PARTY_NOTICES.txt', '_blank')} />
        </View>
      </ScrollView>
      <PrimaryBar label={t`Done`} onPress={() => (router.canGoBack() ? router.back() : router.replace('/'))} />
      {tips ? <Tips onDone={() => setTips(false)} /> : null}
    </View>
  );
}

function Setting<K extends keyof Settings>({
  of,
  title,
  says,
  choices,
}: {
  readonly of: K;
  readonly title: string;
  readonly says: string;
  readonly choices: readonly Choice<K>[];
}) {
  const now = useSettingsStore((s) => s[of]);
  return (
    <View className="gap-2">
      <Text variant="head" nativeID={`setting-${of}`}>
        {title}
      </Text>
      <Text tone="soft">{says}</Text>
      <ChoiceGroup
        labelledBy={`setting-${of}`}
        choices={choices.map(({ value, name }) => ({ value, label: name, accessibilityLabel: `${name}: ${title}` }))}
        value={now}
        onChange={(value) => changeSettings({ [of]: value })}
      />
    </View>
  );
}

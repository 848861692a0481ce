import { t } from '@lingui/core/macro';
import { useLocalSearchParams, useRouter } from 'expo-router';
import { useState } from 'react';
import { ScrollView, View } from 'react-native';
import type { JoinView } from '../../contract/views';
import { StatusMessage } from '../ui/StatusMessage';
import { PrimaryBar } from '../ui/PrimaryBar';
import { Text } from '../ui/Text';
import { GiveCode } from '../features/linking/GiveCode';
import { LinkedScreens } from '../features/linking/LinkedScreens';
import { screenName } from '../features/linking/screenName';
import { TakeCode } from '../features/linking/TakeCode';

/** The same work on phone and laptop: a code from one, taken by the other. */
export function LinkScreen() {
  const router = useRouter();
  const { code } = useLocalSearchParams<{ code?: string }>();
  const [linked, setLinked] = useState<JoinView | null>(null);
  const take = <TakeCode code={code ?? ''} onLinked={setLinked} />;
  return (
    <View className="flex-1 bg-paper">
      <View role="banner" className="border-b border-rule-faint px-4 py-3">
        <Text variant="title">{t`Phone and laptop`}</Text>
        <Text variant="soft">{t`The same hand-ins on both, as you go`}</Text>
      </View>
      <ScrollView role="main" className="flex-1" contentContainerClassName="mx-auto w-full max-w-[640px] gap-8 p-4">
        {linked === null ? null : (
          <StatusMessage
            status="success"
            announce
          >{t`This screen is linked with ${{ screenName: screenName(linked, 'the') }} now. Everything is on the desk.`}</StatusMessage>
        )}
        {code !== undefined && linked === null ? take : null}
        <GiveCode />
        {code === undefined && linked === null ? take : null}
        <LinkedScreens />
      </ScrollView>
      <PrimaryBar
        label={linked !== null ? t`To the desk` : t`Done`}
        onPress={() => (linked !== null || !router.canGoBack() ? router.replace('/') : router.back())}
      />
    </View>
  );
}

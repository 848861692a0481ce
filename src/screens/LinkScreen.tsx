import { t } from '@lingui/core/macro';
import { useLocalSearchParams, useRouter } from 'expo-router';
import { useState } from 'react';
import { ScrollView, View } from 'react-native';
import type { JoinView } from '../../contract/views';
import { Flag } from '../components/Flag';
import { NextBar } from '../components/NextBar';
import { Words } from '../components/Words';
import { GiveCode } from '../link/GiveCode';
import { LinkedScreens } from '../link/LinkedScreens';
import { screenName } from '../link/screenName';
import { TakeCode } from '../link/TakeCode';

/** The same work on phone and laptop: a code from one, taken by the other. */
export function LinkScreen() {
  const router = useRouter();
  const { code } = useLocalSearchParams<{ code?: string }>();
  const [linked, setLinked] = useState<JoinView | null>(null);
  const take = <TakeCode code={code ?? ''} onLinked={setLinked} />;
  return (
    <View className="flex-1 bg-paper">
      <View role="banner" className="border-b border-rule-faint px-4 py-3">
        <Words as="title">{t`Phone and laptop`}</Words>
        <Words as="soft">{t`The same hand-ins on both, as you go`}</Words>
      </View>
      <ScrollView role="main" className="flex-1" contentContainerClassName="mx-auto w-full max-w-[640px] gap-8 p-4">
        {linked === null ? null : (
          <Flag
            kind="fine"
            live
          >{t`This screen is linked with ${{ screenName: screenName(linked, 'the') }} now. Everything is on the desk.`}</Flag>
        )}
        {code !== undefined && linked === null ? take : null}
        <GiveCode />
        {code === undefined && linked === null ? take : null}
        <LinkedScreens />
      </ScrollView>
      <NextBar
        label={linked !== null ? t`To the desk` : t`Done`}
        onPress={() => (linked !== null || !router.canGoBack() ? router.replace('/') : router.back())}
      />
    </View>
  );
}

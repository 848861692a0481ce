import { t } from '@lingui/core/macro';
import { useRouter } from 'expo-router';
import { useEffect } from 'react';
import { useForm, useWatch } from 'react-hook-form';
import { ScrollView, View } from 'react-native';
import type { ProfileView } from '../../contract/views';
import { PAPERS } from '../../core/work/paper/paperSize';
import { FIRST_PATTERN, NamePieces } from '../features/bind/NameTool';
import { PAPER_NAMES } from '../features/bind/paperNames';
import { Button } from '../ui/Button';
import { StatusMessage } from '../ui/StatusMessage';
import { TextField } from '../ui/TextField';
import { PrimaryBar } from '../ui/PrimaryBar';
import { ChoiceGroup } from '../ui/ChoiceGroup';
import { Text } from '../ui/Text';
import { LinkedScreens } from '../features/linking/LinkedScreens';
import { AccountTool } from '../features/hand-in/AccountTool';
import { useEngine, useProfile } from '../engine/useEngine';
import { nameRules, studentNumberRules } from '../forms/fieldRules';

/** Who hands in, what new work begins with, and the accounts and screens that belong to it. */
export function ProfileScreen() {
  const router = useRouter();
  const engine = useEngine();
  const profile = useProfile();
  const { control, handleSubmit, setValue, reset, formState } = useForm<ProfileView>({
    defaultValues: { ...profile },
    mode: 'onBlur',
  });
  // another screen may change it, or it arrives only now; what is being written here is left alone
  useEffect(() => {
    if (!formState.isDirty) reset({ ...profile });
  }, [profile, formState.isDirty, reset]);
  const { paper, name } = useWatch({ control }) as ProfileView;
  const keep = handleSubmit(async (written) => {
    await engine.profile.change(written);
    if (router.canGoBack()) router.back();
    else router.replace('/');
  });
  return (
    <View className="flex-1 bg-paper">
      <View role="banner" className="border-b border-rule-faint px-4 py-3">
        <Text variant="title">{t`You`}</Text>
        <Text variant="soft">{t`As your courses want it written; the same on all your screens`}</Text>
      </View>
      <ScrollView role="main" className="flex-1" contentContainerClassName="mx-auto w-full max-w-[640px] gap-6 p-4">
        <View className="gap-3">
          <TextField control={control} name="first" rules={nameRules()} label={t`First name`} />
          <TextField control={control} name="family" rules={nameRules()} label={t`Family name`} />
          <TextField control={control} name="number" rules={studentNumberRules()} label={t`Student number`} capitals />
        </View>
        <View className="gap-2">
          <Text variant="head" nativeID="new-paper">
            {t`Paper of new hand-ins`}
          </Text>
          <ChoiceGroup
            labelledBy="new-paper"
            choices={PAPERS.map((each) => ({ value: each, label: t(PAPER_NAMES[each]) }))}
            value={paper}
            onChange={(each) => setValue('paper', each, { shouldDirty: true })}
          />
        </View>
        <View className="gap-2">
          <Text variant="head" nativeID="new-name">
            {t`Name of new files`}
          </Text>
          <ChoiceGroup
            labelledBy="new-name"
            choices={[
              { value: false, label: t`Use the title` },
              { value: true, label: t`Use a pattern` },
            ]}
            value={name !== null}
            onChange={(patterned) => setValue('name', patterned ? FIRST_PATTERN : null, { shouldDirty: true })}
          />
          {name === null ? null : (
            <NamePieces pattern={name} onChange={(pattern) => setValue('name', pattern, { shouldDirty: true })} />
          )}
        </View>
        {Object.keys(formState.errors).length > 0 ? (
          <StatusMessage status="error" announce>
            {t`Check the marked fields above.`}
          </StatusMessage>
        ) : null}
        <View className="gap-3">
          <Text variant="head">{t`Accounts`}</Text>
          <AccountTool service="office" />
          <AccountTool service="locker" />
          <AccountTool service="post" />
        </View>
        <LinkedScreens />
        <View className="items-start">
          <Button label={t`Link another screen`} onPress={() => router.push('/link')} />
        </View>
      </ScrollView>
      <PrimaryBar label={formState.isDirty ? t`Save` : t`Done`} onPress={() => void keep()} />
    </View>
  );
}

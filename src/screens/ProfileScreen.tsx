import { t } from '@lingui/core/macro';
import { useRouter } from 'expo-router';
import { useEffect } from 'react';
import { useForm, useWatch } from 'react-hook-form';
import { ScrollView, View } from 'react-native';
import type { ProfileView } from '../../contract/views';
import { PAPERS } from '../../core/pdf/paperSize';
import { FIRST_PATTERN, NamePieces } from '../bind/NameTool';
import { PAPER_NAMES } from '../bind/paperNames';
import { Action } from '../components/Action';
import { Flag } from '../components/Flag';
import { FormField } from '../components/FormField';
import { NextBar } from '../components/NextBar';
import { Words } from '../components/Words';
import { LinkedScreens } from '../link/LinkedScreens';
import { AccountTool } from '../places/AccountTool';
import { useEngine, useProfile } from '../engine/useEngine';
import { nameRules, studentNumberRules } from '../components/fieldRules';

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
        <Words as="title">{t`You`}</Words>
        <Words as="soft">{t`As your courses want it written; the same on all your screens`}</Words>
      </View>
      <ScrollView role="main" className="flex-1" contentContainerClassName="mx-auto w-full max-w-[640px] gap-6 p-4">
        <View className="gap-3">
          <FormField control={control} name="first" rules={nameRules()} label={t`First name`} />
          <FormField control={control} name="family" rules={nameRules()} label={t`Family name`} />
          <FormField control={control} name="number" rules={studentNumberRules()} label={t`Student number`} capitals />
        </View>
        <View className="gap-2">
          <Words as="head" nativeID="new-paper">
            {t`Paper of new hand-ins`}
          </Words>
          <View role="group" aria-labelledby="new-paper" className="flex-row flex-wrap gap-2">
            {PAPERS.map((each) => (
              <Action
                key={each}
                label={t(PAPER_NAMES[each])}
                on={each === paper}
                onPress={() => setValue('paper', each, { shouldDirty: true })}
              />
            ))}
          </View>
        </View>
        <View className="gap-2">
          <Words as="head" nativeID="new-name">
            {t`Name of new files`}
          </Words>
          <View role="group" aria-labelledby="new-name" className="flex-row flex-wrap gap-2">
            <Action
              label={t`By the title`}
              on={name === null}
              onPress={() => setValue('name', null, { shouldDirty: true })}
            />
            <Action
              label={t`Use a pattern`}
              on={name !== null}
              onPress={() => name === null && setValue('name', FIRST_PATTERN, { shouldDirty: true })}
            />
          </View>
          {name === null ? null : (
            <NamePieces pattern={name} onChange={(pattern) => setValue('name', pattern, { shouldDirty: true })} />
          )}
        </View>
        {Object.keys(formState.errors).length > 0 ? (
          <Flag kind="broken" live>
            {t`Check the marked fields above.`}
          </Flag>
        ) : null}
        <View className="gap-3">
          <Words as="head">{t`Accounts`}</Words>
          <AccountTool service="office" />
          <AccountTool service="locker" />
          <AccountTool service="post" />
        </View>
        <LinkedScreens />
        <View className="items-start">
          <Action label={t`Link another screen`} onPress={() => router.push('/link')} />
        </View>
      </ScrollView>
      <NextBar label={formState.isDirty ? t`Save` : t`Done`} onPress={() => void keep()} />
    </View>
  );
}

import { select, t } from '@lingui/core/macro';
import { useEffect, useState } from 'react';
import { useForm } from 'react-hook-form';
import { View } from 'react-native';
import { Button } from '../../ui/Button';
import { StatusMessage } from '../../ui/StatusMessage';
import { TextField } from '../../ui/TextField';
import { Text } from '../../ui/Text';
import { useEngine } from '../../engine/useEngine';
import { refreshOffice } from '../../college/officeStore';
import { refreshAccount, signIn, signOut, useAccountStore } from '../../college/accountStore';
import type { CollegeService } from '../../college/collegeClient';
import { errorText } from '../../i18n/errorText';
import { pinRules, signInNumberRules } from '../../forms/fieldRules';

/** Whose account at a service it goes in under; signing in where nobody is. */
export function AccountTool({ service }: { readonly service: CollegeService }) {
  const account = useAccountStore((s) => s.accounts[service]);
  const { profile } = useEngine();
  useEffect(() => {
    // away: what was known before is still shown
    refreshAccount(service).catch(() => undefined);
  }, [service]);
  const leave = (): void =>
    void signOut(service).then(
      () => refreshOffice(profile),
      () => undefined,
    );
  const who = account === null ? '' : `${account.first} ${account.family}, ${account.number}`;
  const says = { office: t`Submitting as ${who}`, locker: t`The locker of ${who}`, post: t`Sent by ${who}` };
  return (
    <View nativeID={`account-${service}`}>
      {account === null ? (
        <SignIn service={service} />
      ) : (
        <View className="flex-row flex-wrap items-center justify-between gap-2">
          <Text className="shrink">{says[service]}</Text>
          <Button
            variant="text"
            label={t`Sign out`}
            accessibilityLabel={t`Sign out at ${select(service, { office: 'the course office', locker: 'the locker', other: 'the post tray' })}`}
            onPress={leave}
          />
        </View>
      )}
    </View>
  );
}

function SignIn({ service }: { readonly service: CollegeService }) {
  const { profile } = useEngine();
  const [problem, setProblem] = useState<string | null>(null);
  const { control, handleSubmit, formState } = useForm<{ number: string; pin: string }>({
    defaultValues: { number: '', pin: '' },
  });
  const enter = handleSubmit(async ({ number, pin }) => {
    setProblem(null);
    await signIn(service, number, pin)
      .then(() => refreshOffice(profile))
      .catch((error: unknown) => setProblem(errorText(error, t`No answer came. Check the connection and try again.`)));
  });
  return (
    <View className="gap-2 rounded border border-rule-faint bg-sheet p-3">
      <Text variant="head">{t`Sign in at ${select(service, { office: 'the course office', locker: 'the locker', other: 'the post tray' })}`}</Text>
      <Text variant="soft">{t`With your own number and PIN there. In this demo: SP-20417 and 2041.`}</Text>
      <TextField control={control} name="number" rules={signInNumberRules()} label={t`Student number`} capitals />
      <TextField control={control} name="pin" rules={pinRules()} label={t`PIN`} secret />
      <StatusMessage status="error" announce>
        {problem}
      </StatusMessage>
      <View className="items-start">
        <Button
          label={formState.isSubmitting ? t`Signing in …` : t`Sign in`}
          disabled={formState.isSubmitting}
          onPress={() => void enter()}
        />
      </View>
    </View>
  );
}

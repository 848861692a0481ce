import { plural, t } from '@lingui/core/macro';
import { useCallback, useEffect, useRef, useState } from 'react';
import { useForm } from 'react-hook-form';
import { View } from 'react-native';
import { useStore } from 'zustand';
import type { JoinView } from '../../../contract/views';
import { Button } from '../../ui/Button';
import { StatusMessage } from '../../ui/StatusMessage';
import { TextField } from '../../ui/TextField';
import { Text } from '../../ui/Text';
import { useEngine } from '../../engine/useEngine';
import { screenName } from './screenName';
import { errorText } from '../../i18n/errorText';
import { linkCodeRules } from '../../forms/fieldRules';

interface TakeCodeProps {
  /** From an address that was photographed; else empty. */
  readonly code: string;
  readonly onLinked: (to: JoinView) => void;
}

/** Joins the work of the screen that a code was made on: first whose work that is, then whether it is wanted. */
export function TakeCode({ code, onLinked }: TakeCodeProps) {
  const engine = useEngine();
  const waiting = useStore(engine.sending, (s) => s.waiting);
  const [found, setFound] = useState<{ readonly code: string; readonly join: JoinView } | null>(null);
  const [joining, setJoining] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const { control, handleSubmit, formState } = useForm<{ code: string }>({
    defaultValues: { code },
  });
  const tell = (error: unknown): void => setProblem(errorText(error, t`The screens could not be linked. Try again.`));
  const look = useCallback(
    async (typed: string): Promise<void> => {
      setProblem(null);
      await engine.api.lookAtLink(typed).then((join) => setFound({ code: typed, join }), tell);
    },
    [engine],
  );
  const looked = useRef(false);
  useEffect(() => {
    if (code === '' || looked.current) return;
    looked.current = true;
    void look(code);
  }, [code, look]);
  const join = async (): Promise<void> => {
    setJoining(true);
    setProblem(null);
    try {
      await engine.api.link(found!.code);
      await engine.startOver();
      onLinked(found!.join);
    } catch (error) {
      setFound(null);
      tell(error);
    }
    setJoining(false);
  };
  // what this screen has made must be with the server before its owner changes
  const sending = waiting !== 0;
  return (
    <View className="gap-3">
      <Text variant="head">{t`Link this screen`}</Text>
      {found === null ? (
        <>
          <Text variant="soft">{t`With the code that the other screen shows.`}</Text>
          <TextField control={control} name="code" rules={linkCodeRules()} label={t`Code`} capitals />
          <View className="items-start">
            <Button
              label={formState.isSubmitting ? t`Looking …` : t`Continue`}
              disabled={formState.isSubmitting}
              onPress={() => void handleSubmit(({ code: typed }) => look(typed))()}
            />
          </View>
        </>
      ) : (
        <View
          role="group"
          aria-label={t`Link this screen`}
          className="gap-3 rounded border border-rule-faint bg-sheet p-3"
        >
          <Text variant="strong">{t`This is the work on ${{ screenName: screenName(found.join, 'the') }}: ${plural({ count: found.join.handIns }, { one: '# hand-in', other: '# hand-ins' })}.`}</Text>
          <Text>
            {t`Link only with somebody you know. All linked screens show the same hand-ins, and each can change and delete them. What you made here comes along.`}
          </Text>
          <Text>{t`You can unlink this screen again. What it brought then leaves with it.`}</Text>
          <View className="flex-row flex-wrap gap-2">
            <Button
              label={joining ? t`Linking …` : sending ? t`Saving first …` : t`Link this screen`}
              disabled={joining || sending}
              onPress={() => void join()}
            />
            <Button variant="text" label={t`Cancel`} onPress={() => setFound(null)} />
          </View>
        </View>
      )}
      <StatusMessage status="error" announce>
        {problem}
      </StatusMessage>
    </View>
  );
}

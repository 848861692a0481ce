import { t } from '@lingui/core/macro';
import { useRouter } from 'expo-router';
import { useEffect, useState } from 'react';
import { ScrollView, TextInput, View } from 'react-native';
import { useStore } from 'zustand';
import { Button } from '../ui/Button';
import { FIELD } from '../ui/field';
import { StatusMessage } from '../ui/StatusMessage';
import { PrimaryBar } from '../ui/PrimaryBar';
import { Text } from '../ui/Text';
import { useEngine } from '../engine/useEngine';
import { errorText } from '../i18n/errorText';

const WORDS = 12;
const wordsIn = (text: string): string[] =>
  text
    .toLowerCase()
    .split(/[^a-z]+/)
    .filter((word) => word !== '');

/** Brings everything back on a new device, with the words that were kept. */
export function RecoverScreen() {
  const router = useRouter();
  const engine = useEngine();
  const waiting = useStore(engine.sending, (s) => s.waiting);
  const [text, setText] = useState('');
  const [state, setState] = useState<'typing' | 'working' | 'done'>('typing');
  const [problem, setProblem] = useState<string | null>(null);
  // a QR code brings the words in the part of the address that never leaves the browser
  useEffect(() => {
    const words = wordsIn(decodeURIComponent(window.location.hash));
    if (words.length > 0) setText(words.join(' '));
  }, []);
  const count = wordsIn(text).length;
  const recover = async (): Promise<void> => {
    setState('working');
    setProblem(null);
    try {
      await engine.api.recover(wordsIn(text).join(' '));
      await engine.startOver();
      setState('done');
    } catch (error) {
      setProblem(errorText(error, t`Your work could not be brought back. Try again.`));
      setState('typing');
    }
  };
  // what was made here must be with the server before its owner changes
  const isSending = waiting !== 0;
  return (
    <View className="flex-1 bg-paper">
      <View role="banner" className="border-b border-rule-faint px-4 py-3">
        <Text variant="title">{t`Use a recovery code`}</Text>
        <Text variant="soft">{t`Brings your hand-ins to this device`}</Text>
      </View>
      <ScrollView role="main" className="flex-1" contentContainerClassName="mx-auto w-full max-w-[640px] gap-4 p-4">
        {state === 'done' ? (
          <StatusMessage status="success" announce>
            {t`Everything is back. Your hand-ins are on the desk.`}
          </StatusMessage>
        ) : (
          <>
            <Text>
              {t`Type the twelve words in their order, with spaces between them. What you made on this device comes along.`}
            </Text>
            <TextInput
              aria-label={t`Recovery words`}
              multiline
              value={text}
              onChangeText={setText}
              autoCapitalize="none"
              autoCorrect={false}
              className={`${FIELD} min-h-[112px] py-2`}
            />
            <Text
              variant="soft"
              aria-live="polite"
              className="tabular-nums"
            >{t`${count} of ${{ total: WORDS }} words`}</Text>
            <View className="items-start">
              <Button
                label={
                  state === 'working' ? t`Bringing it back …` : isSending ? t`Saving first …` : t`Bring everything back`
                }
                disabled={count !== WORDS || state === 'working' || isSending}
                onPress={() => void recover()}
              />
            </View>
            <StatusMessage status="error" announce>
              {problem}
            </StatusMessage>
          </>
        )}
      </ScrollView>
      <PrimaryBar label={state === 'done' ? t`Go to the desk` : t`Cancel`} onPress={() => router.replace('/')} />
    </View>
  );
}

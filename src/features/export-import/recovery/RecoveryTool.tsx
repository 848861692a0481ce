import { t } from '@lingui/core/macro';
import { readableDate } from '../../../i18n/formats';
import { lazy, Suspense, useState } from 'react';
import { useRouter } from 'expo-router';
import { View } from 'react-native';
import { Button } from '../../../ui/Button';
import { StatusMessage } from '../../../ui/StatusMessage';
import { Text } from '../../../ui/Text';
import { useEngine } from '../../../engine/useEngine';
import { downloadFile } from '../../../files/downloadFile';
import { recoverySheet } from './recoverySheet';
import { printSheet } from './printSheet';
import { useRecoveryMadeAt } from './useRecoveryCode';
import { errorText } from '../../../i18n/errorText';

const QrCode = lazy(() => import('../../../ui/QrCode').then((module) => ({ default: module.QrCode })));
const QR_PX = 208;

/** The address that opens the code on a new device; the words stand where no server sees them. */
const addressOf = (words: readonly string[]): string => `${window.location.origin}/recover#${words.join('-')}`;

/** Words that bring everything back when no device is left; shown once. */
export function RecoveryTool() {
  const router = useRouter();
  const { api } = useEngine();
  const [madeAtMs, setMadeAtMs] = useRecoveryMadeAt();
  const [words, setWords] = useState<readonly string[] | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const make = async (): Promise<void> => {
    setProblem(null);
    try {
      const code = await api.makeRecoveryCode();
      setWords(code.words);
      setMadeAtMs(code.madeAtMs);
    } catch (error) {
      setProblem(errorText(error, t`No code could be made. Try again.`));
    }
  };
  return (
    <View className="gap-2">
      <Text variant="head">{t`Recovery code`}</Text>
      <Text tone="soft">
        {t`Twelve words that bring everything back on a new device when this one is lost. Whoever has them can open your work.`}
      </Text>
      {words === null ? (
        <>
          {madeAtMs === null || madeAtMs === undefined ? null : (
            <StatusMessage status="success">{t`You have a code, made on ${{ date: dayOf(madeAtMs) }}. It is not shown again.`}</StatusMessage>
          )}
          <View className="flex-row flex-wrap gap-2">
            <Button
              label={typeof madeAtMs === 'number' ? t`Replace the code` : t`Make a recovery code`}
              onPress={() => void make()}
            />
            <Button variant="text" label={t`Use a recovery code`} onPress={() => router.push('/recover')} />
          </View>
        </>
      ) : (
        <View className="gap-3 rounded border border-rule bg-sheet p-3">
          <Text>
            {t`Write these words down in this order, print them or save them. They are shown only now; an older code no longer works.`}
          </Text>
          <View role="list" aria-label={t`Recovery words`} testID="recovery-words" className="flex-row flex-wrap">
            {words.map((word, i) => (
              <View key={i} role="listitem" className="w-1/3 flex-row gap-1 py-1">
                <Text variant="soft" className="w-[24px] text-right tabular-nums">
                  {i + 1}
                </Text>
                <Text variant="strong">{word}</Text>
              </View>
            ))}
          </View>
          <View style={{ width: QR_PX, height: QR_PX }} className="bg-white">
            <Suspense fallback={null}>
              <QrCode sizePx={QR_PX} text={addressOf(words)} label={t`QR code of the recovery words`} />
            </Suspense>
          </View>
          <View className="flex-row flex-wrap gap-2">
            <Button
              label={t`Print`}
              accessibilityLabel={t`Print the recovery words`}
              onPress={() => printSheet(recoverySheet(words, window.location.origin))}
            />
            <Button
              label={t`Save as a file`}
              accessibilityLabel={t`Save as a file: the recovery words`}
              onPress={() =>
                downloadFile(
                  new Blob([recoverySheet(words, window.location.origin)], { type: 'text/plain' }),
                  `${t`Fotoplan recovery code`}.txt`,
                )
              }
            />
            <Button label={t`I have kept them`} onPress={() => setWords(null)} />
          </View>
        </View>
      )}
      <StatusMessage status="error" announce>
        {problem}
      </StatusMessage>
    </View>
  );
}

const dayOf = (ms: number): string => readableDate(ms, { dateStyle: 'medium' });

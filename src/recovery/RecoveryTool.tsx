import { t } from '@lingui/core/macro';
import { readableDate } from '../i18n/formats';
import { lazy, Suspense, useState } from 'react';
import { useRouter } from 'expo-router';
import { View } from 'react-native';
import { Action } from '../components/Action';
import { Flag } from '../components/Flag';
import { Words } from '../components/Words';
import { useEngine } from '../engine/useEngine';
import { downloadFile } from '../files/downloadFile';
import { recoverySheet } from './recoverySheet';
import { printSheet } from './printSheet';
import { useRecoveryMadeAt } from './useRecoveryCode';
import { errorText } from '../i18n/errorText';

const QrCode = lazy(() => import('../link/QrCode').then((module) => ({ default: module.QrCode })));
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
      <Words as="head">{t`Recovery code`}</Words>
      <Words tone="soft">
        {t`Twelve words that bring everything back on a new device when this one is lost. Whoever has them can open your work.`}
      </Words>
      {words === null ? (
        <>
          {madeAtMs === null || madeAtMs === undefined ? null : (
            <Flag kind="fine">{t`You have a code, made on ${{ date: dayOf(madeAtMs) }}. It is not shown again.`}</Flag>
          )}
          <View className="flex-row flex-wrap gap-2">
            <Action
              label={typeof madeAtMs === 'number' ? t`Replace the code` : t`Make a recovery code`}
              onPress={() => void make()}
            />
            <Action kind="quiet" label={t`Use a recovery code`} onPress={() => router.push('/recover')} />
          </View>
        </>
      ) : (
        <View className="gap-3 rounded border border-rule bg-sheet p-3">
          <Words>
            {t`Write these words down in this order, print them or save them. They are shown only now; an older code no longer works.`}
          </Words>
          <View role="list" aria-label={t`Recovery words`} testID="recovery-words" className="flex-row flex-wrap">
            {words.map((word, i) => (
              <View key={i} role="listitem" className="w-1/3 flex-row gap-1 py-1">
                <Words as="soft" className="w-[24px] text-right tabular-nums">
                  {i + 1}
                </Words>
                <Words as="strong">{word}</Words>
              </View>
            ))}
          </View>
          <View style={{ width: QR_PX, height: QR_PX }} className="bg-white">
            <Suspense fallback={null}>
              <QrCode sizePx={QR_PX} text={addressOf(words)} label={t`QR code of the recovery words`} />
            </Suspense>
          </View>
          <View className="flex-row flex-wrap gap-2">
            <Action
              label={t`Print`}
              spoken={t`Print the recovery words`}
              onPress={() => printSheet(recoverySheet(words, window.location.origin))}
            />
            <Action
              label={t`Save as a file`}
              spoken={t`Save as a file: the recovery words`}
              onPress={() =>
                downloadFile(
                  new Blob([recoverySheet(words, window.location.origin)], { type: 'text/plain' }),
                  `${t`Fotoplan recovery code`}.txt`,
                )
              }
            />
            <Action label={t`I have kept them`} onPress={() => setWords(null)} />
          </View>
        </View>
      )}
      {problem === null ? null : (
        <Flag kind="broken" live>
          {problem}
        </Flag>
      )}
    </View>
  );
}

const dayOf = (ms: number): string => readableDate(ms, { dateStyle: 'medium' });

import { t } from '@lingui/core/macro';
import { lazy, Suspense, useState } from 'react';
import { View } from 'react-native';
import type { LinkCodeView } from '../../../contract/views';
import { Button } from '../../ui/Button';
import { StatusMessage } from '../../ui/StatusMessage';
import { Text } from '../../ui/Text';
import { useNow } from '../../format/useNow';
import { useEngine } from '../../engine/useEngine';
import { errorText } from '../../i18n/errorText';

const QrCode = lazy(() => import('../../ui/QrCode').then((module) => ({ default: module.QrCode })));
const QR_PX = 208;

/** A code for another screen: to be photographed, or read out and typed. */
export function GiveCode() {
  const { api } = useEngine();
  const now = useNow();
  const [code, setCode] = useState<LinkCodeView | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const ask = async (): Promise<void> => {
    setProblem(null);
    try {
      setCode(await api.linkCode());
    } catch (error) {
      setProblem(errorText(error, t`No code could be made. Try again.`));
    }
  };
  const over = code !== null && now > code.expiresAtMs;
  return (
    <View className="gap-3">
      <Text variant="head">{t`Open this work on another screen`}</Text>
      {code === null || over ? (
        <>
          <Text variant="soft">
            {over
              ? t`The code has expired. Make a new one.`
              : t`A code is good for five minutes and for one screen. Both then show the same hand-ins, and what one shoots turns up on the other.`}
          </Text>
          <View className="items-start">
            <Button label={over ? t`Make a new code` : t`Make a code`} onPress={() => void ask()} />
          </View>
        </>
      ) : (
        <View className="items-start gap-3">
          <View style={{ width: QR_PX, height: QR_PX }} className="bg-white">
            <Suspense fallback={null}>
              <QrCode
                sizePx={QR_PX}
                text={`${window.location.origin}/link?code=${code.code}`}
                label={t`QR code that opens the link on another screen`}
              />
            </Suspense>
          </View>
          <Text>{t`Point the other screen’s camera at it, or open ${{ host: window.location.host }}/link there and type`}</Text>
          <Text variant="title" testID="link-code" className="tabular-nums tracking-widest">
            {code.code}
          </Text>
        </View>
      )}
      <StatusMessage status="error" announce>
        {problem}
      </StatusMessage>
    </View>
  );
}

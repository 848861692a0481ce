import { t } from '@lingui/core/macro';
import { useEffect, useState } from 'react';
import { View } from 'react-native';
import { readableBytes } from '../../i18n/formats';
import { askToKeep, storageUse, type StorageUse } from '../../../platform/browser/storageUse';
import { Button } from '../../ui/Button';
import { StatusMessage } from '../../ui/StatusMessage';
import { Text } from '../../ui/Text';
import { useEngine } from '../../engine/useEngine';
import { errorText } from '../../i18n/errorText';

/** What Fotoplan uses of this device's room, and the ways to have more. */
export function SpaceTool() {
  const engine = useEngine();
  const [use, setUse] = useState<StorageUse | null>(null);
  const [freeable, setFreeable] = useState<number | null>(null);
  const [working, setWorking] = useState(false);
  const [said, setSaid] = useState<{ readonly kind: 'success' | 'error'; readonly words: string } | null>(null);
  useEffect(() => {
    if (working) return;
    let current = true;
    void storageUse().then((now) => current && setUse(now));
    // without a connection nobody knows what the server has
    engine.freeable().then(
      (bytes) => current && setFreeable(bytes),
      () => current && setFreeable(null),
    );
    return () => {
      current = false;
    };
  }, [engine, working]);
  const free = async (): Promise<void> => {
    setWorking(true);
    try {
      const bytes = await engine.freeSpace();
      setSaid({
        kind: 'success',
        words: t`${{ size: readableBytes(bytes) }} freed. The photos are on the server and come back when they are needed.`,
      });
    } catch (error) {
      setSaid({
        kind: 'error',
        words: errorText(error, t`Nothing was freed. Try again with a connection.`),
      });
    } finally {
      setWorking(false);
    }
  };
  const protect = async (): Promise<void> => {
    const kept = await askToKeep();
    setUse(await storageUse());
    if (!kept)
      setSaid({
        kind: 'error',
        words: t`The browser did not agree. Adding Fotoplan to the home screen often changes that.`,
      });
  };
  return (
    <View className="gap-2">
      <Text variant="head">{t`Space on this device`}</Text>
      {use === null ? (
        <Text tone="soft">{t`This browser does not tell how much room there is.`}</Text>
      ) : (
        <>
          <Text className="tabular-nums">{t`Fotoplan uses ${{ size: readableBytes(use.usedBytes) }} of ${{ size2: readableBytes(use.quotaBytes) }}.`}</Text>
          <Text tone="soft">
            {use.isPersistent
              ? t`The browser keeps it until you delete it.`
              : t`The browser may clear it when the device is full. What the server has is safe there.`}
          </Text>
          {use.isPersistent ? null : (
            <View className="items-start">
              <Button label={t`Ask the browser to keep it`} onPress={() => void protect()} />
            </View>
          )}
        </>
      )}
      <Text tone="soft">
        {t`Photos that the server has can be dropped here. They are fetched again when you bind or set edges.`}
      </Text>
      <View className="items-start">
        <Button
          label={
            working
              ? t`Freeing space …`
              : freeable === null
                ? t`Free space`
                : freeable === 0
                  ? t`Nothing to free`
                  : t`Free ${{ size: readableBytes(freeable) }}`
          }
          accessibilityLabel={
            freeable === null || freeable === 0
              ? t`Free space on this device`
              : t`Free ${{ size: readableBytes(freeable) }} on this device`
          }
          disabled={working || freeable === 0}
          onPress={() => void free()}
        />
      </View>
      {said === null ? null : (
        <StatusMessage status={said.kind} announce>
          {said.words}
        </StatusMessage>
      )}
    </View>
  );
}

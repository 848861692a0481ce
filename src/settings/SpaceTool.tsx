import { t } from '@lingui/core/macro';
import { useEffect, useState } from 'react';
import { View } from 'react-native';
import { readableBytes } from '../i18n/formats';
import { askToKeep, storageUse, type StorageUse } from '../../platform/browser/storageUse';
import { Action } from '../components/Action';
import { Flag } from '../components/Flag';
import { Words } from '../components/Words';
import { useEngine } from '../engine/useEngine';
import { errorText } from '../i18n/errorText';

/** What Fotoplan uses of this device's room, and the ways to have more. */
export function SpaceTool() {
  const engine = useEngine();
  const [use, setUse] = useState<StorageUse | null>(null);
  const [freeable, setFreeable] = useState<number | null>(null);
  const [working, setWorking] = useState(false);
  const [said, setSaid] = useState<{ readonly kind: 'fine' | 'broken'; readonly words: string } | null>(null);
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
        kind: 'fine',
        words: t`${{ size: readableBytes(bytes) }} freed. The photos are on the server and come back when they are needed.`,
      });
    } catch (error) {
      setSaid({
        kind: 'broken',
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
        kind: 'broken',
        words: t`The browser did not agree. Adding Fotoplan to the home screen often changes that.`,
      });
  };
  return (
    <View className="gap-2">
      <Words as="head">{t`Space on this device`}</Words>
      {use === null ? (
        <Words tone="soft">{t`This browser does not tell how much room there is.`}</Words>
      ) : (
        <>
          <Words className="tabular-nums">{t`Fotoplan uses ${{ size: readableBytes(use.usedBytes) }} of ${{ size2: readableBytes(use.quotaBytes) }}.`}</Words>
          <Words tone="soft">
            {use.isPersistent
              ? t`The browser keeps it until you delete it.`
              : t`The browser may clear it when the device is full. What the server has is safe there.`}
          </Words>
          {use.isPersistent ? null : (
            <View className="items-start">
              <Action label={t`Ask the browser to keep it`} onPress={() => void protect()} />
            </View>
          )}
        </>
      )}
      <Words tone="soft">
        {t`Photos that the server has can be dropped here. They are fetched again when you bind or set edges.`}
      </Words>
      <View className="items-start">
        <Action
          label={
            working
              ? t`Freeing space …`
              : freeable === null
                ? t`Free space`
                : freeable === 0
                  ? t`Nothing to free`
                  : t`Free ${{ size: readableBytes(freeable) }}`
          }
          spoken={
            freeable === null || freeable === 0
              ? t`Free space on this device`
              : t`Free ${{ size: readableBytes(freeable) }} on this device`
          }
          disabled={working || freeable === 0}
          onPress={() => void free()}
        />
      </View>
      {said === null ? null : (
        <Flag kind={said.kind} live>
          {said.words}
        </Flag>
      )}
    </View>
  );
}

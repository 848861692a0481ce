import { plural, t } from '@lingui/core/macro';
import { useState } from 'react';
import { View } from 'react-native';
import { useStore } from 'zustand';
import type { OutboxEntry } from '../data/outbox';
import { useDocuments, useEngine } from '../engine/useEngine';
import { Button } from '../ui/Button';
import { StatusMessage } from '../ui/StatusMessage';
import { Text } from '../ui/Text';
import { errorText } from '../i18n/errorText';

/** What could not be saved, why, and the two ways on; nothing while everything goes up. */
export function UnsavedBanner() {
  const engine = useEngine();
  const { waiting, connection, problem, refused, held } = useStore(engine.sending);
  const [sure, setSure] = useState(false);
  const [failed, setFailed] = useState<string | null>(null);
  const about = useAbout(refused[0]);
  const isStuck = (waiting ?? 0) > 0 && (connection === 'down' || problem !== null);
  if (refused.length === 0 && !isStuck) return null;
  const retry = (): void => {
    setSure(false);
    void engine.retry();
  };
  const discard = async (): Promise<void> => {
    setSure(false);
    setFailed(null);
    try {
      for (const { key } of refused) await engine.discard(key);
    } catch {
      setFailed(t`It could not be discarded without a connection. It is still kept here.`);
    }
  };
  const why = refused[0]?.item.refused;
  const later = t`This could not be sent.`;
  const reason = why === undefined ? '' : errorText(why, later);
  return (
    <View
      role="region"
      aria-label={t`What is not saved`}
      className="flex-row flex-wrap items-center gap-x-4 gap-y-1 border-b border-rule-faint bg-sheet px-4 py-2"
    >
      <View className="min-w-[260px] flex-1 gap-1">
        {refused.length > 0 ? (
          <StatusMessage
            status="error"
            announce
          >{t`${plural({ count: refused.length }, { one: '# change', other: '# changes' })} could not be saved${{ what: about === null ? '' : ` (${about})` }}: ${{ reason }}`}</StatusMessage>
        ) : (
          <StatusMessage
            status="warning"
            announce
          >{t`${plural({ count: waiting ?? 0 }, { one: '# change', other: '# changes' })} only on this device. ${{ reason: connection === 'down' ? t`The server cannot be reached.` : problem === null ? '' : errorText(problem, later) }} It is tried again by itself.`}</StatusMessage>
        )}
        {held > 0 ? (
          <Text variant="soft">
            {plural(held, { one: '# later change waits for it.', other: '# later changes wait for it.' })}
          </Text>
        ) : null}
        <StatusMessage status="error" announce>
          {failed}
        </StatusMessage>
      </View>
      {sure ? (
        <View className="flex-row flex-wrap items-center gap-2">
          <Text>{t`Discard ${plural({ count: refused.length }, { one: '# change', other: '# changes' })}? This cannot be undone.`}</Text>
          <Button
            label={t`Discard`}
            accessibilityLabel={t`Discard ${plural({ count: refused.length }, { one: '# change', other: '# changes' })} for good`}
            onPress={() => void discard()}
          />
          <Button
            variant="text"
            label={t`Keep`}
            accessibilityLabel={t`Keep what could not be saved`}
            onPress={() => setSure(false)}
          />
        </View>
      ) : (
        <View className="flex-row flex-wrap gap-2">
          <Button label={t`Try again`} accessibilityLabel={t`Try again to save`} onPress={retry} />
          {refused.length > 0 ? (
            <Button
              variant="text"
              label={t`Discard`}
              accessibilityLabel={t`Discard what could not be saved`}
              onPress={() => setSure(true)}
            />
          ) : null}
        </View>
      )}
    </View>
  );
}

/** Which thing a refused item is about, in the words the person knows it by; null where it has none. */
function useAbout(entry: OutboxEntry | undefined): string | null {
  const handIns = useDocuments((s) => s.handIns);
  if (entry === undefined) return null;
  const { item } = entry;
  if (item.kind === 'profile') return t`your name and number`;
  const all = Object.values(handIns);
  if (item.kind === 'original')
    return all.flatMap(({ pages }) => pages).find(({ originalId }) => originalId === item.originalId)?.fileName ?? null;
  const handIn = handIns[item.kind === 'boundFile' ? item.handInId : item.operation.handInId];
  if (handIn === undefined) return null;
  const pageId = item.kind === 'operation' && 'pageId' in item.operation ? item.operation.pageId : null;
  const page = handIn.pages.find(({ id }) => id === pageId);
  return page === undefined ? `“${handIn.title}”` : `“${handIn.title}”, ${page.fileName}`;
}

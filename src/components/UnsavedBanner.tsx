import { useState } from 'react';
import { View } from 'react-native';
import { useStore } from 'zustand';
import type { OutboxEntry } from '../data/outbox';
import { useDocuments, useEngine } from '../engine/useEngine';
import { Action } from './Action';
import { Flag } from './Flag';
import { Words } from './Words';

const changes = (n: number): string => (n === 1 ? '1 change' : `${n} changes`);

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
      setFailed('It could not be discarded without a connection. It is still kept here.');
    }
  };
  const reason = refused[0]?.item.refused?.message;
  return (
    <View
      role="region"
      aria-label="What is not saved"
      className="flex-row flex-wrap items-center gap-x-4 gap-y-1 border-b border-rule-faint bg-sheet px-4 py-2"
    >
      <View className="min-w-[260px] flex-1 gap-1">
        {refused.length > 0 ? (
          <Flag
            kind="broken"
            live
          >{`${changes(refused.length)} could not be saved${about === null ? '' : ` (${about})`}: ${reason ?? ''}`}</Flag>
        ) : (
          <Flag
            kind="look"
            live
          >{`${changes(waiting ?? 0)} only on this device. ${connection === 'down' ? 'The server cannot be reached.' : problem} It is tried again by itself.`}</Flag>
        )}
        {held > 0 ? (
          <Words as="soft">{held === 1 ? '1 later change waits for it.' : `${held} later changes wait for it.`}</Words>
        ) : null}
        {failed === null ? null : (
          <Flag kind="broken" live>
            {failed}
          </Flag>
        )}
      </View>
      {sure ? (
        <View className="flex-row flex-wrap items-center gap-2">
          <Words>{`Discard ${changes(refused.length)}? This cannot be undone.`}</Words>
          <Action
            label="Discard"
            spoken={`Discard ${changes(refused.length)} for good`}
            onPress={() => void discard()}
          />
          <Action kind="quiet" label="Keep" spoken="Keep what could not be saved" onPress={() => setSure(false)} />
        </View>
      ) : (
        <View className="flex-row flex-wrap gap-2">
          <Action label="Try again" spoken="Try again to save" onPress={retry} />
          {refused.length > 0 ? (
            <Action
              kind="quiet"
              label="Discard"
              spoken="Discard what could not be saved"
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
  if (item.kind === 'profile') return 'your name and number';
  const all = Object.values(handIns);
  if (item.kind === 'original')
    return all.flatMap(({ pages }) => pages).find(({ originalId }) => originalId === item.originalId)?.fileName ?? null;
  const handIn = handIns[item.kind === 'boundFile' ? item.handInId : item.operation.handInId];
  if (handIn === undefined) return null;
  const pageId = item.kind === 'operation' && 'pageId' in item.operation ? item.operation.pageId : null;
  const page = handIn.pages.find(({ id }) => id === pageId);
  return page === undefined ? `“${handIn.title}”` : `“${handIn.title}”, ${page.fileName}`;
}

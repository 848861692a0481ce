import { plural, t } from '@lingui/core/macro';
import { useStore } from 'zustand';
import { useDocuments, useEngine } from '../engine/useEngine';
import { StatusMessage } from '../ui/StatusMessage';
import { Text } from '../ui/Text';

/** Whether everything has gone up, in few words; why not, and what to do about it, says UnsavedBanner. */
export function SyncStatus() {
  const { waiting, connection, problem, refused } = useStore(useEngine().sending);
  const writing = useDocuments((s) => s.writing);
  const unsaved = Math.max(waiting ?? 0, Math.min(1, writing));
  if (refused.length > 0)
    return (
      <StatusMessage status="error">{t`${plural({ count: refused.length + (waiting ?? 0) }, { one: '# change', other: '# changes' })} not saved`}</StatusMessage>
    );
  if (connection === 'down')
    return (
      <StatusMessage
        status="warning"
        announce
      >{t`No connection: ${plural({ count: waiting ?? 0 }, { one: '# change', other: '# changes' })} safe on this device`}</StatusMessage>
    );
  if (problem !== null && unsaved > 0)
    return (
      <StatusMessage status="warning">{t`${plural({ count: unsaved }, { one: '# change', other: '# changes' })} only on this device`}</StatusMessage>
    );
  return (
    <Text variant="soft" role="status">
      {unsaved > 0
        ? t`Sending ${plural({ count: unsaved }, { one: '# change', other: '# changes' })}`
        : waiting === null
          ? t`Checking what is saved`
          : t`All saved`}
    </Text>
  );
}

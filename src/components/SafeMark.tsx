import { plural, t } from '@lingui/core/macro';
import { useStore } from 'zustand';
import { useDocuments, useEngine } from '../engine/useEngine';
import { Flag } from './Flag';
import { Words } from './Words';

/** Whether everything has gone up, in few words; why not, and what to do about it, says UnsavedBanner. */
export function SafeMark() {
  const { waiting, connection, problem, refused } = useStore(useEngine().sending);
  const writing = useDocuments((s) => s.writing);
  const unsaved = Math.max(waiting ?? 0, Math.min(1, writing));
  if (refused.length > 0)
    return (
      <Flag kind="broken">{t`${plural({ count: refused.length + (waiting ?? 0) }, { one: '# change', other: '# changes' })} not saved`}</Flag>
    );
  if (connection === 'down')
    return (
      <Flag
        kind="look"
        live
      >{t`No connection: ${plural({ count: waiting ?? 0 }, { one: '# change', other: '# changes' })} safe on this device`}</Flag>
    );
  if (problem !== null && unsaved > 0)
    return (
      <Flag kind="look">{t`${plural({ count: unsaved }, { one: '# change', other: '# changes' })} only on this device`}</Flag>
    );
  return (
    <Words as="soft" role="status">
      {unsaved > 0
        ? t`Sending ${plural({ count: unsaved }, { one: '# change', other: '# changes' })}`
        : waiting === null
          ? t`Checking what is saved`
          : t`All saved`}
    </Words>
  );
}

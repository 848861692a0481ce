import { useStore } from 'zustand';
import { useDocuments, useEngine } from '../engine/useEngine';
import { Flag } from './Flag';
import { Words } from './Words';

const changes = (n: number): string => (n === 1 ? '1 change' : `${n} changes`);

/** Whether everything has gone up, in few words; why not, and what to do about it, says UnsavedBanner. */
export function SafeMark() {
  const { waiting, connection, problem, refused } = useStore(useEngine().sending);
  const writing = useDocuments((s) => s.writing);
  const unsaved = Math.max(waiting ?? 0, Math.min(1, writing));
  if (refused.length > 0) return <Flag kind="broken">{`${changes(refused.length + (waiting ?? 0))} not saved`}</Flag>;
  if (connection === 'down')
    return <Flag kind="look" live>{`No connection: ${changes(waiting ?? 0)} safe on this device`}</Flag>;
  if (problem !== null && unsaved > 0) return <Flag kind="look">{`${changes(unsaved)} only on this device`}</Flag>;
  return (
    <Words as="soft" role="status">
      {unsaved > 0 ? `Sending ${changes(unsaved)}` : waiting === null ? 'Checking what is saved' : 'All saved'}
    </Words>
  );
}

import { useSyncStore } from '../stores/syncStore';
import { Flag } from './Flag';
import { Words } from './Words';

/** Whether everything has gone up, in few words. */
export function SafeMark() {
  const { waiting, connection, problem, writing } = useSyncStore();
  const unsaved = Math.max(waiting ?? 0, Math.min(1, writing));
  if (problem !== null) return <Flag kind="broken" live>{problem}</Flag>;
  if (connection === 'down') return <Flag kind="look" live>{`No connection: ${changes(waiting ?? 0)} safe on this device`}</Flag>;
  return <Words as="soft" role="status">{unsaved > 0 ? `Sending ${changes(unsaved)}` : waiting === null ? 'Looking what is saved' : 'All saved'}</Words>;
}

const changes = (n: number): string => (n === 1 ? '1 change' : `${n} changes`);

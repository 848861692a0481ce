import { useRouter } from 'expo-router';
import { View } from 'react-native';
import { boundPages, type HandIn } from '../../core/handIn/handIn';
import { standing, type Assignment, type Receipt } from '../../core/ready/assignment';
import { wantsLook } from '../../core/recipe/recipe';
import { Action } from '../components/Action';
import { Flag } from '../components/Flag';
import { Words } from '../components/Words';
import { dueTime } from '../format/dueTime';
import { useNow } from '../format/useNow';
import { createHandInFor } from '../stores/pageActions';
import { useOfficeStore } from './officeStore';

/** What is due, the next first, with what each still lacks. */
export function DueList({ handIns }: { readonly handIns: readonly HandIn[] }) {
  const now = useNow();
  const assignments = useOfficeStore((s) => s.assignments);
  const receipts = useOfficeStore((s) => s.receipts);
  const shown = assignments.filter((each) => standing(each, now) !== 'closed' || receipts.some(({ assignmentId }) => assignmentId === each.id)).sort((a, b) => a.dueMs - b.dueMs);
  if (shown.length === 0) return null;
  return (
    <View className="w-full gap-2 p-2">
      <Words as="head">Due</Words>
      <View role="list" aria-label="Due" className="flex-row flex-wrap gap-2">
        {shown.map((assignment) => (
          <View key={assignment.id} role="listitem" className="w-full md:w-[49%]">
            <Due assignment={assignment} handIn={handIns.find((each) => each.assignmentId === assignment.id)} receipt={receipts.find(({ assignmentId, withdrawn }) => assignmentId === assignment.id && !withdrawn)} nowMs={now} />
          </View>
        ))}
      </View>
    </View>
  );
}

function Due({ assignment, handIn, receipt, nowMs }: { readonly assignment: Assignment; readonly handIn: HandIn | undefined; readonly receipt: Receipt | undefined; readonly nowMs: number }) {
  const router = useRouter();
  const { left, exact } = dueTime(assignment.dueMs, nowMs);
  const lack = whatLacks(assignment, handIn, receipt);
  return (
    <View className="flex-row items-center gap-3 rounded border border-rule-faint bg-sheet p-3">
      <View className="flex-1 gap-0.5">
        <Words as="soft">{assignment.course}</Words>
        <Words as="strong">{assignment.title}</Words>
        <Words as="small" className="tabular-nums">{`${left}, ${exact}`}</Words>
        <Flag kind={lack.kind}>{lack.says}</Flag>
      </View>
      {handIn === undefined ? (
        <Action label="Start" spoken={`Start ${assignment.title}`} onPress={() => void createHandInFor(assignment).then((id) => router.push(`/hand-in/${id}`))} />
      ) : (
        <Action label="Check" spoken={`Open the ready check of ${assignment.title}`} onPress={() => router.push(`/hand-in/${handIn.id}/hand-in`)} />
      )}
    </View>
  );
}

function whatLacks({ leastPages }: Assignment, handIn: HandIn | undefined, receipt: Receipt | undefined): { readonly kind: 'fine' | 'look'; readonly says: string } {
  if (receipt !== undefined) return { kind: 'fine', says: receipt.notes.length > 0 ? 'returned with notes' : `received, ${receipt.number}` };
  if (handIn === undefined) return { kind: 'look', says: 'not begun' };
  const pages = boundPages(handIn);
  const missing = leastPages - pages.length;
  if (missing > 0) return { kind: 'look', says: missing === 1 ? '1 page still to shoot' : `${missing} pages still to shoot` };
  const unsure = pages.filter(({ recipe }) => wantsLook(recipe)).length;
  return unsure > 0 ? { kind: 'look', says: unsure === 1 ? '1 page to look at' : `${unsure} pages to look at` } : { kind: 'look', says: 'not handed in yet' };
}

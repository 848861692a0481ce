import X from 'lucide-react-native/icons/x';
import { View } from 'react-native';
import { dismissIntake, useIntakeStore } from '../stores/intakeStore';
import { Action } from './Action';
import { Flag } from './Flag';
import { Words } from './Words';

/** Photos on their way to being pages: how many are left, and each that could not be used with what to do. */
export function IntakeList({ handInId }: { readonly handInId: string }) {
  const intakes = useIntakeStore((s) => s.intakes);
  const own = intakes.filter((intake) => intake.handInId === handInId);
  const left = own.filter((intake) => intake.state !== 'failed');
  const failed = own.filter((intake) => intake.state === 'failed');
  const working = left.find((intake) => intake.state === 'working');
  return (
    <>
      {left.length > 0 ? (
        <View role="status" className="border-b border-rule-faint px-4 py-2">
          <Words as="small">{`Finding the paper: ${left.length === 1 ? '1 photo' : `${left.length} photos`} to go`}</Words>
          {working === undefined ? null : <Words as="soft" numberOfLines={1}>{working.fileName}</Words>}
        </View>
      ) : null}
      {failed.map(({ id, fileName, problem }) => (
        <View key={id} role="alert" className="flex-row items-center gap-2 border-b border-rule-faint bg-sheet py-1 pl-4 pr-1">
          <View className="flex-1"><Flag kind="broken">{problem ?? ''}</Flag></View>
          <Action kind="quiet" icon={X} label="Close" spoken={`Close the note about ${fileName}`} onPress={() => dismissIntake(id)} />
        </View>
      ))}
    </>
  );
}

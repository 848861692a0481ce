import Check from 'lucide-react-native/icons/check';
import { Pressable, View } from 'react-native';
import { Words } from '../components/Words';

/** Something that is so or not, with what it means. */
export function Switch({
  label,
  says,
  on,
  onChange,
}: {
  readonly label: string;
  readonly says: string;
  readonly on: boolean;
  readonly onChange: (on: boolean) => void;
}) {
  return (
    <Pressable
      role="switch"
      aria-checked={on}
      aria-label={label}
      onPress={() => onChange(!on)}
      className="min-h-[48px] flex-row items-center gap-3 py-1 active:bg-beet-tint"
    >
      <View
        className={`h-7 w-7 items-center justify-center border ${on ? 'border-beet bg-beet' : 'border-rule bg-sheet'}`}
        aria-hidden
      >
        {on ? <Check size={18} color="rgb(var(--on-beet))" strokeWidth={2.5} /> : null}
      </View>
      <View className="flex-1">
        <Words as="strong">{label}</Words>
        <Words as="soft">{says}</Words>
      </View>
    </Pressable>
  );
}

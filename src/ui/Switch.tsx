import Check from 'lucide-react-native/icons/check';
import { Pressable, View } from 'react-native';
import { Text } from './Text';

/** Something that is so or not, with what it means. */
export function Switch({
  label,
  description,
  checked,
  onChange,
}: {
  readonly label: string;
  readonly description: string;
  readonly checked: boolean;
  readonly onChange: (checked: boolean) => void;
}) {
  return (
    <Pressable
      role="switch"
      aria-checked={checked}
      aria-label={label}
      onPress={() => onChange(!checked)}
      className="min-h-[48px] flex-row items-center gap-3 py-1 active:bg-beet-tint"
    >
      <View
        className={`h-7 w-7 items-center justify-center border ${checked ? 'border-beet bg-beet' : 'border-rule bg-sheet'}`}
        aria-hidden
      >
        {checked ? <Check size={18} color="rgb(var(--on-beet))" strokeWidth={2.5} /> : null}
      </View>
      <View className="flex-1">
        <Text variant="strong">{label}</Text>
        <Text variant="soft">{description}</Text>
      </View>
    </Pressable>
  );
}

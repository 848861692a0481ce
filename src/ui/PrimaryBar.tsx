import { Pressable, View } from 'react-native';
import { Text } from './Text';

interface PrimaryBarProps {
  readonly label: string;
  readonly onPress: () => void;
  readonly disabled?: boolean;
}

/** The one sensible next thing, in plain words, within the thumb's reach. */
export function PrimaryBar({ label, onPress, disabled = false }: PrimaryBarProps) {
  return (
    <View className="items-center border-t border-rule-faint bg-paper p-2">
      <Pressable
        role="button"
        aria-label={label}
        aria-disabled={disabled}
        disabled={disabled}
        onPress={onPress}
        className={`min-h-[56px] w-full max-w-[560px] items-center justify-center rounded px-4 ${disabled ? 'bg-rule-faint' : 'bg-next active:opacity-90'}`}
      >
        <Text variant="act" tone={disabled ? 'soft' : 'onNext'} className="text-center">
          {label}
        </Text>
      </Pressable>
    </View>
  );
}

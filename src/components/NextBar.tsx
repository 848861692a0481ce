import { Pressable, View } from 'react-native';
import { Words } from './Words';

interface NextBarProps {
  readonly label: string;
  readonly onPress: () => void;
  readonly disabled?: boolean;
}

/** The one sensible next thing, in plain words, within the thumb's reach. */
export function NextBar({ label, onPress, disabled = false }: NextBarProps) {
  return (
    <View className="items-center border-t border-rule-faint bg-paper p-2">
      <Pressable
        role="button"
        aria-label={label}
        aria-disabled={disabled}
        disabled={disabled}
        onPress={onPress}
        className={`min-h-[56px] w-full max-w-[560px] items-center justify-center rounded px-4 ${disabled ? 'bg-rule-faint' : 'bg-beet active:bg-beet-deep'}`}
      >
        <Words as="act" tone={disabled ? 'soft' : 'onBeet'} className="text-center">
          {label}
        </Words>
      </Pressable>
    </View>
  );
}

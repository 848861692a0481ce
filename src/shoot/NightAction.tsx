import { Pressable, View } from 'react-native';
import type { Icon } from '../components/Action';
import { Words } from '../components/Words';

interface NightActionProps {
  readonly label: string;
  readonly spoken?: string;
  readonly icon?: Icon;
  readonly on?: boolean;
  /** Said to a screen reader as a switch. */
  readonly toggle?: boolean;
  readonly disabled?: boolean;
  readonly onPress: () => void;
}

/** A button on the night ground of the camera and of reading through. */
export function NightAction({
  label,
  spoken,
  icon: Sign,
  on = false,
  toggle = false,
  disabled = false,
  onPress,
}: NightActionProps) {
  return (
    <Pressable
      role="button"
      aria-label={spoken ?? label}
      {...(toggle ? { 'aria-pressed': on } : {})}
      aria-disabled={disabled}
      disabled={disabled}
      onPress={onPress}
      className={`${disabled ? 'opacity-60 ' : ''}min-h-[44px] min-w-[44px] flex-row items-center justify-center gap-1.5 rounded px-2 ${on ? 'bg-chalk' : ''}`}
    >
      {Sign === undefined ? null : (
        <View aria-hidden>
          <Sign size={20} strokeWidth={1.75} color={on ? 'rgb(var(--night))' : 'rgb(var(--chalk))'} />
        </View>
      )}
      <Words as="small" tone={on ? 'night' : 'chalk'} numberOfLines={1}>
        {label}
      </Words>
    </Pressable>
  );
}

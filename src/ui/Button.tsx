import { Pressable } from 'react-native';
import { buttonClass, ButtonFace, type ButtonVariant, type Icon } from './buttonFace';
import { SHORTCUTS, type Shortcut } from './shortcuts';
import { useTooltip } from './useTooltip';

interface ButtonProps {
  readonly label: string;
  readonly onPress: () => void;
  readonly icon?: Icon;
  /** Said in the label's place, and beginning with it, where the label alone would not tell what it acts on. */
  readonly accessibilityLabel?: string;
  readonly variant?: ButtonVariant;
  /** Makes it a toggle, on or off; left out for a button that only acts. */
  readonly pressed?: boolean;
  readonly disabled?: boolean;
  /** The key that does the same; shown in a tooltip. */
  readonly shortcut?: Shortcut;
}

/** A button in words, with an icon where one helps; a toggle where `pressed` is given. */
export function Button({
  label,
  onPress,
  icon,
  accessibilityLabel = label,
  variant = 'outlined',
  pressed,
  disabled = false,
  shortcut,
}: ButtonProps) {
  const key = shortcut === undefined ? undefined : SHORTCUTS[shortcut];
  const { handlers, tooltip } = useTooltip(key === undefined ? undefined : `${accessibilityLabel}: ${key.shown}`);
  return (
    <Pressable
      role="button"
      aria-label={accessibilityLabel}
      {...(pressed === undefined ? {} : { 'aria-pressed': pressed })}
      {...(key === undefined ? {} : { 'aria-keyshortcuts': key.key })}
      aria-disabled={disabled}
      disabled={disabled}
      onPress={onPress}
      {...(key === undefined ? {} : handlers)}
      className={buttonClass(variant, pressed === true, disabled)}
    >
      <ButtonFace label={label} icon={icon} variant={variant} selected={pressed === true} />
      {tooltip}
    </Pressable>
  );
}

import { Pressable } from 'react-native';
import { buttonClass, ButtonFace, type ButtonVariant, type Icon } from './buttonFace';

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
}: ButtonProps) {
  return (
    <Pressable
      role="button"
      aria-label={accessibilityLabel}
      {...(pressed === undefined ? {} : { 'aria-pressed': pressed })}
      aria-disabled={disabled}
      disabled={disabled}
      onPress={onPress}
      className={buttonClass(variant, pressed === true, disabled)}
    >
      <ButtonFace label={label} icon={icon} variant={variant} selected={pressed === true} />
    </Pressable>
  );
}

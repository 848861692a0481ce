import { useRef, type KeyboardEvent } from 'react';
import { Pressable, View } from 'react-native';
import { buttonClass, ButtonFace, type ButtonVariant, type Icon } from './buttonFace';
import { CropMarks } from './CropMarks';

export interface Choice<T> {
  readonly value: T;
  readonly label: string;
  /** Said in the label's place, and beginning with it. */
  readonly accessibilityLabel?: string;
  readonly icon?: Icon;
  /** Shown as a field of this colour, with the label only spoken. */
  readonly swatch?: string;
}

interface ChoiceGroupProps<T> {
  /** What is chosen, said before the choices; or the id of the heading that says so. */
  readonly label?: string;
  readonly labelledBy?: string;
  readonly choices: readonly Choice<T>[];
  /** What is chosen now; none of the choices where something else was set. */
  readonly value: T;
  readonly onChange: (value: T) => void;
  readonly variant?: ButtonVariant;
  readonly className?: string;
}

const FORWARD = new Set(['ArrowRight', 'ArrowDown']);
const BACKWARD = new Set(['ArrowLeft', 'ArrowUp']);

/**
 * One of several, as a radio group (WAI-ARIA): one stop of the Tab key, on which the arrow keys choose. In a language that is read
 * from the right, the left arrow goes on.
 */
export function ChoiceGroup<T>({
  label,
  labelledBy,
  choices,
  value,
  onChange,
  variant = 'outlined',
  className = variant === 'outlined' || variant === 'text' ? 'flex-row flex-wrap gap-2' : 'flex-row flex-wrap',
}: ChoiceGroupProps<T>) {
  const parts = useRef<(View | null)[]>([]);
  const at = choices.findIndex((choice) => choice.value === value);
  const choose = (i: number): void => {
    parts.current[i]?.focus();
    if (i !== at) onChange(choices[i]!.value);
  };
  const onKeyDown = (event: KeyboardEvent, i: number): void => {
    const fromRight = event.currentTarget.closest('[dir]')?.getAttribute('dir') === 'rtl';
    const sideways = event.key === 'ArrowLeft' || event.key === 'ArrowRight';
    const forward = FORWARD.has(event.key) !== (fromRight && sideways);
    if (event.key === ' ') choose(i);
    else if (FORWARD.has(event.key) || BACKWARD.has(event.key))
      choose((i + (forward ? 1 : choices.length - 1)) % choices.length);
    else return;
    event.preventDefault();
  };
  return (
    <View
      role="radiogroup"
      {...(label === undefined ? {} : { 'aria-label': label })}
      {...(labelledBy === undefined ? {} : { 'aria-labelledby': labelledBy })}
      className={className}
    >
      {choices.map((choice, i) => {
        const selected = i === at;
        const web = {
          tabIndex: i === Math.max(at, 0) ? (0 as const) : (-1 as const),
          onKeyDown: (event: KeyboardEvent) => onKeyDown(event, i),
        };
        return (
          <Pressable
            key={String(choice.value)}
            ref={(part) => {
              parts.current[i] = part;
            }}
            role="radio"
            aria-label={choice.accessibilityLabel ?? choice.label}
            aria-checked={selected}
            onPress={() => choose(i)}
            {...web}
            className={
              choice.swatch === undefined
                ? buttonClass(variant, selected, false)
                : 'h-[44px] flex-1 items-center justify-center'
            }
          >
            {choice.swatch === undefined ? (
              <ButtonFace label={choice.label} icon={choice.icon} variant={variant} selected={selected} />
            ) : (
              <>
                <View className="h-7 w-7 border border-rule" style={{ backgroundColor: choice.swatch }} />
                {selected ? <CropMarks /> : null}
              </>
            )}
          </Pressable>
        );
      })}
    </View>
  );
}

import type { ComponentType } from 'react';
import { View } from 'react-native';
import { CropMarks } from './CropMarks';
import { Text } from './Text';

export type Icon = ComponentType<{ size?: number; color?: string; strokeWidth?: number }>;

/** `toolbar` stands in a row of equals, none narrower than its longest word; `onDark` stands on the night ground of the camera. */
export type ButtonVariant = 'outlined' | 'toolbar' | 'text' | 'onDark';

const SHAPES: Readonly<Record<ButtonVariant, string>> = {
  outlined: 'max-w-full flex-row justify-center gap-2 rounded border px-4 py-2',
  toolbar: 'min-w-min flex-1 gap-1 px-0.5 py-2',
  text: 'flex-row justify-center gap-2 px-2 py-2',
  onDark: 'min-w-[44px] flex-row justify-center gap-1.5 rounded px-2',
};

/** The classes of a button's frame. */
export function buttonClass(variant: ButtonVariant, selected: boolean, disabled: boolean): string {
  const ground =
    variant === 'onDark'
      ? selected
        ? 'bg-chalk'
        : ''
      : selected
        ? `bg-beet-tint ${variant === 'outlined' ? 'border-beet' : ''}`
        : variant === 'outlined'
          ? 'border-rule bg-sheet'
          : '';
  const press = disabled ? 'opacity-60' : variant === 'onDark' ? 'active:opacity-80' : 'active:bg-beet-tint';
  return `min-h-[44px] items-center ${SHAPES[variant]} ${ground} ${press}`;
}

interface ButtonFaceProps {
  readonly label: string;
  readonly icon?: Icon | undefined;
  readonly variant: ButtonVariant;
  readonly selected: boolean;
}

/** What is seen of a button: its icon and its label. */
export function ButtonFace({ label, icon: ShownIcon, variant, selected }: ButtonFaceProps) {
  const dark = variant === 'onDark';
  const colour = dark ? (selected ? '--night' : '--chalk') : selected ? '--beet' : '--ink';
  const tone = dark ? (selected ? 'night' : 'chalk') : selected ? 'beet' : 'ink';
  return (
    <>
      {ShownIcon === undefined ? null : (
        <View aria-hidden>
          <ShownIcon size={20} strokeWidth={1.75} color={`rgb(var(${colour}))`} />
        </View>
      )}
      {label === '' ? null : (
        <Text
          variant={variant === 'toolbar' ? 'label' : dark ? 'small' : 'strong'}
          tone={tone}
          {...(variant === 'toolbar' ? { numberOfLines: 2 } : {})}
          className={variant === 'toolbar' || variant === 'outlined' ? 'shrink text-center' : 'shrink'}
        >
          {label}
        </Text>
      )}
      {selected && variant === 'outlined' ? <CropMarks /> : null}
    </>
  );
}

import type { ComponentType } from 'react';
import { Pressable, View } from 'react-native';
import { CropMarks } from './CropMarks';
import { Words } from './Words';

export type Icon = ComponentType<{ size?: number; color?: string; strokeWidth?: number }>;

interface ActionProps {
  readonly label: string;
  readonly onPress: () => void;
  readonly icon?: Icon;
  /** Said instead of the label where the label alone would not tell what it acts on. */
  readonly spoken?: string;
  readonly kind?: 'plain' | 'verb' | 'quiet';
  readonly on?: boolean;
  readonly disabled?: boolean;
}

const SHAPES = {
  plain: 'flex-row justify-center rounded border px-4',
  verb: 'flex-1 px-0',
  quiet: 'flex-row justify-center px-2',
} as const;

/** A button in words, with a sign where one helps. */
export function Action({
  label,
  onPress,
  icon: Sign,
  spoken,
  kind = 'plain',
  on = false,
  disabled = false,
}: ActionProps) {
  return (
    <Pressable
      role="button"
      aria-label={spoken ?? label}
      {...(on ? { 'aria-pressed': true } : {})}
      aria-disabled={disabled}
      disabled={disabled}
      onPress={onPress}
      className={`min-h-[44px] items-center gap-1 py-2 ${kind === 'verb' ? '' : 'gap-2'} ${SHAPES[kind]} ${kind === 'plain' ? (on ? 'border-beet bg-beet-tint' : 'border-rule bg-sheet') : on ? 'bg-beet-tint' : ''} ${disabled ? 'opacity-60' : 'active:bg-beet-tint'}`}
    >
      {Sign === undefined ? null : (
        <View aria-hidden>
          <Sign size={20} strokeWidth={1.75} color={on ? 'rgb(var(--beet))' : 'rgb(var(--ink))'} />
        </View>
      )}
      <Words as={kind === 'verb' ? 'small' : 'strong'} tone={on ? 'beet' : 'ink'} numberOfLines={1}>
        {label}
      </Words>
      {on && kind === 'plain' ? <CropMarks /> : null}
    </Pressable>
  );
}

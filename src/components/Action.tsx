import type { ComponentType } from 'react';
import { Pressable, View } from 'react-native';
import { CropMarks } from './CropMarks';
import { Words } from './Words';

export type Icon = ComponentType<{ size?: number; color?: string; strokeWidth?: number }>;

interface ActionProps {
  readonly label: string;
  readonly onPress: () => void;
  readonly icon?: Icon;
  /** Said in the label's place, and beginning with it, where the label alone would not tell what it acts on. */
  readonly spoken?: string;
  /** `verb` stands in a row of equals, none narrower than its longest word. */
  readonly kind?: 'plain' | 'verb' | 'quiet';
  /** Whether it is chosen; left out where it cannot be. */
  readonly on?: boolean;
  readonly disabled?: boolean;
}

const SHAPES = {
  plain: 'flex-row justify-center rounded border px-4',
  verb: 'min-w-min flex-1 px-0.5',
  quiet: 'flex-row justify-center px-2',
} as const;

/** A button in words, with a sign where one helps. */
export function Action({ label, onPress, icon: Sign, spoken, kind = 'plain', on, disabled = false }: ActionProps) {
  const isVerb = kind === 'verb';
  return (
    <Pressable
      role="button"
      aria-label={spoken ?? label}
      {...(on === undefined ? {} : { 'aria-pressed': on })}
      aria-disabled={disabled}
      disabled={disabled}
      onPress={onPress}
      className={`min-h-[44px] items-center gap-1 py-2 ${isVerb ? '' : 'gap-2'} ${SHAPES[kind]} ${kind === 'plain' ? (on === true ? 'border-beet bg-beet-tint' : 'border-rule bg-sheet') : on === true ? 'bg-beet-tint' : ''} ${disabled ? 'opacity-60' : 'active:bg-beet-tint'}`}
    >
      {Sign === undefined ? null : (
        <View aria-hidden>
          <Sign size={20} strokeWidth={1.75} color={on === true ? 'rgb(var(--beet))' : 'rgb(var(--ink))'} />
        </View>
      )}
      <Words
        as={isVerb ? 'label' : 'strong'}
        tone={on === true ? 'beet' : 'ink'}
        {...(isVerb ? { numberOfLines: 2 } : {})}
        className={isVerb || kind === 'plain' ? 'shrink text-center' : 'shrink'}
      >
        {label}
      </Words>
      {on === true && kind === 'plain' ? <CropMarks /> : null}
    </Pressable>
  );
}

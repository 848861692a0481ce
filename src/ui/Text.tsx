import { Text as NativeText, type TextProps } from 'react-native';

const STYLES = {
  title: 'font-title text-title',
  head: 'font-title text-head',
  act: 'font-title text-head',
  read: 'font-read text-read',
  strong: 'font-strong text-read',
  soft: 'font-read text-small',
  small: 'font-read text-small',
  label: 'font-read text-label',
} as const;

const TONES = {
  ink: 'text-ink',
  soft: 'text-ink-soft',
  beet: 'text-beet',
  onBeet: 'text-on-beet',
  onNext: 'text-on-next',
  chalk: 'text-chalk',
  night: 'text-night',
  beetLight: 'text-beet-light',
  moss: 'text-moss',
  amber: 'text-amber',
  brick: 'text-brick',
} as const;
export type Tone = keyof typeof TONES;

interface TextOptions extends TextProps {
  readonly variant?: keyof typeof STYLES;
  readonly tone?: Tone;
  readonly className?: string;
}

/** Everything that is read, in the two shipped faces. `title` and `head` are headings to a screen reader, `act` looks like one on a button. */
export function Text({ variant: as = 'read', tone, className = '', ...rest }: TextOptions) {
  const heading =
    as === 'title'
      ? { role: 'heading' as const, 'aria-level': 1 }
      : as === 'head'
        ? { role: 'heading' as const, 'aria-level': 2 }
        : {};
  return (
    <NativeText
      {...heading}
      className={`${STYLES[as]} ${TONES[tone ?? (as === 'soft' ? 'soft' : 'ink')]} ${className}`}
      {...rest}
    />
  );
}

import { Text, type TextProps } from 'react-native';

const STYLES = {
  title: 'font-title text-title text-ink',
  head: 'font-title text-head text-ink',
  read: 'font-read text-read text-ink',
  strong: 'font-strong text-read text-ink',
  soft: 'font-read text-small text-ink-soft',
  small: 'font-read text-small text-ink',
} as const;

interface WordsProps extends TextProps {
  readonly as?: keyof typeof STYLES;
  readonly className?: string;
}

/** Everything that is read, in the two shipped faces. Titles are headings to a screen reader. */
export function Words({ as = 'read', className = '', ...rest }: WordsProps) {
  const heading = as === 'title' ? { role: 'heading' as const, 'aria-level': 1 } : as === 'head' ? { role: 'heading' as const, 'aria-level': 2 } : {};
  return <Text {...heading} className={`${STYLES[as]} ${className}`} {...rest} />;
}

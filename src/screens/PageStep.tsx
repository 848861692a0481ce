import { t } from '@lingui/core/macro';
import { Button } from '../ui/Button';
import { NextIcon, PreviousIcon } from '../ui/directionalIcons';

interface PageStepProps {
  readonly to: 'previous' | 'next';
  /** Without its word, where there is no room for it. */
  readonly narrow?: boolean;
  readonly disabled: boolean;
  readonly onPress: () => void;
}

/** The way to the page before or after. */
export function PageStep({ to, narrow = false, disabled, onPress }: PageStepProps) {
  const isNext = to === 'next';
  const label = isNext ? t`Next` : t`Previous`;
  return (
    <Button
      variant="text"
      icon={isNext ? NextIcon : PreviousIcon}
      label={narrow ? '' : label}
      accessibilityLabel={isNext ? t`Next page` : t`Previous page`}
      shortcut={isNext ? 'nextPage' : 'previousPage'}
      disabled={disabled}
      onPress={onPress}
    />
  );
}

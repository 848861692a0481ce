import { t } from '@lingui/core/macro';
import type { ComponentType } from 'react';
import type { HandIn } from '../../core/work/hand-in/handIn';
import { EmptyState } from '../ui/EmptyState';
import { NotFoundScreen } from './NotFoundScreen';
import { useHandIn } from './useHandIn';

/** A screen that needs its hand-in: until it is loaded, and when it is not here, says so instead. */
export function withHandIn<P extends { readonly handIn: HandIn }>(Screen: ComponentType<P>) {
  return function HandInScreen({ handInId, ...rest }: Omit<P, 'handIn'> & { readonly handInId: string }) {
    const handIn = useHandIn(handInId);
    if (handIn === 'loading')
      return <EmptyState title={t`Loading your pages …`} text={t`They come from this device or the server.`} />;
    if (handIn === 'missing') return <NotFoundScreen />;
    return <Screen {...({ ...rest, handIn } as unknown as P)} />;
  };
}

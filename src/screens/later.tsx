import { t } from '@lingui/core/macro';
import { lazy, Suspense, type ComponentType } from 'react';
import { EmptyState } from '../ui/EmptyState';

/** A screen whose code comes when it is first opened. */
export function later<P extends object>(load: () => Promise<ComponentType<P>>): ComponentType<P> {
  const Screen = lazy(async () => ({ default: await load() }));
  return function Later(props: P) {
    return (
      <Suspense fallback={<EmptyState title={t`Loading …`} text={t`This part of the app is being fetched.`} />}>
        <Screen {...props} />
      </Suspense>
    );
  };
}

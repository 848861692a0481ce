import { t } from '@lingui/core/macro';
import { lazy, Suspense, type ComponentType } from 'react';
import { pageParsed } from './pageParsed';
import { EmptyState } from '../ui/EmptyState';

/** A screen, or a part of one, whose code comes when it is first shown. */
export function later<P extends object>(
  load: () => Promise<ComponentType<P>>,
  meanwhile: 'words' | 'nothing' = 'words',
): ComponentType<P> {
  const Screen = lazy(async () => {
    await pageParsed;
    return { default: await load() };
  });
  return function Later(props: P) {
    return (
      <Suspense
        fallback={
          meanwhile === 'nothing' ? null : (
            <EmptyState title={t`Loading …`} text={t`This part of the app is being fetched.`} />
          )
        }
      >
        <Screen {...props} />
      </Suspense>
    );
  };
}

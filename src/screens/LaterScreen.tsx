import { t } from '@lingui/core/macro';
import { lazy, Suspense } from 'react';
import { Message } from './Message';

const load = () => import('./screensWithForms');
const HandIn = lazy(() => load().then(({ HandInScreen }) => ({ default: HandInScreen })));
const Link = lazy(() => load().then(({ LinkScreen }) => ({ default: LinkScreen })));
const Recover = lazy(() => load().then(({ RecoverScreen }) => ({ default: RecoverScreen })));
const Profile = lazy(() => load().then(({ ProfileScreen }) => ({ default: ProfileScreen })));

export type LaterScreenProps =
  { readonly screen: 'handIn'; readonly handInId: string } | { readonly screen: 'link' | 'profile' | 'recover' };

/** A screen whose code comes when it is opened. */
export function LaterScreen(props: LaterScreenProps) {
  return (
    <Suspense fallback={<Message title={t`Loading …`} text={t`This part of the app is being fetched.`} />}>
      {props.screen === 'handIn' ? (
        <HandIn handInId={props.handInId} />
      ) : props.screen === 'link' ? (
        <Link />
      ) : props.screen === 'recover' ? (
        <Recover />
      ) : (
        <Profile />
      )}
    </Suspense>
  );
}

import { lazy, Suspense } from 'react';
import { Message } from './Message';

const load = () => import('./screensWithForms');
const HandIn = lazy(() => load().then(({ HandInScreen }) => ({ default: HandInScreen })));
const Link = lazy(() => load().then(({ LinkScreen }) => ({ default: LinkScreen })));
const Profile = lazy(() => load().then(({ ProfileScreen }) => ({ default: ProfileScreen })));

export type LaterScreenProps = { readonly screen: 'handIn'; readonly handInId: string } | { readonly screen: 'link' | 'profile' };

/** A screen whose code comes when it is opened. */
export function LaterScreen(props: LaterScreenProps) {
  return (
    <Suspense fallback={<Message title="One moment" text="This part is on its way." />}>
      {props.screen === 'handIn' ? <HandIn handInId={props.handInId} /> : props.screen === 'link' ? <Link /> : <Profile />}
    </Suspense>
  );
}

import { select, t } from '@lingui/core/macro';
import { View } from 'react-native';
import { Action } from '../components/Action';
import { Flag } from '../components/Flag';
import { Words } from '../components/Words';
import type { CollegeService } from './collegeClient';
import type { SendState } from './sendStore';

/** How far a file is on its way, and how it ended. */
export function SendProgress({ send, service }: { readonly send: SendState; readonly service: CollegeService }) {
  if (send.state === 'failed')
    return (
      <Flag kind="broken" live>
        {send.problem}
      </Flag>
    );
  if (send.state === 'done')
    return (
      <Flag kind="fine" live>
        {send.says}
      </Flag>
    );
  if (send.state === 'idle') return null;
  const share = send.state === 'sending' ? send.share : 1;
  return (
    <View className="gap-2">
      <View
        role="progressbar"
        aria-label={t`Sending`}
        aria-valuenow={Math.round(share * 100)}
        aria-valuemin={0}
        aria-valuemax={100}
        className="h-3 border border-rule bg-sheet"
      >
        <View className="h-full bg-beet" style={{ width: `${share * 100}%` }} />
      </View>
      <Words as="soft" role="status">
        {send.state === 'waiting'
          ? t`The file has arrived; the office is looking at it.`
          : t`On its way to ${select(service, { office: 'the course office', locker: 'the locker', other: 'the post tray' })}.`}
      </Words>
      {send.state === 'sending' && share < 1 ? (
        <View className="items-start">
          <Action label={t`Stop`} onPress={send.stop} />
        </View>
      ) : null}
    </View>
  );
}

import { select, t } from '@lingui/core/macro';
import { View } from 'react-native';
import { Button } from '../../ui/Button';
import { StatusMessage } from '../../ui/StatusMessage';
import { ProgressBar } from '../../ui/ProgressBar';
import { Text } from '../../ui/Text';
import type { CollegeService } from '../../college/collegeClient';
import type { SendState } from '../../college/sendStore';

/** How far a file is on its way, and how it ended. */
export function SendProgress({ send, service }: { readonly send: SendState; readonly service: CollegeService }) {
  if (send.state === 'failed')
    return (
      <StatusMessage status="error" announce>
        {send.problem}
      </StatusMessage>
    );
  if (send.state === 'done')
    return (
      <StatusMessage status="success" announce>
        {send.says}
      </StatusMessage>
    );
  if (send.state === 'idle') return null;
  const share = send.state === 'sending' ? send.share : 1;
  return (
    <View className="gap-2">
      <ProgressBar label={t`Sending`} fraction={share} />
      <Text variant="soft" role="status">
        {send.state === 'waiting'
          ? t`The file has arrived; the office is looking at it.`
          : t`On its way to ${select(service, { office: 'the course office', locker: 'the locker', other: 'the post tray' })}.`}
      </Text>
      {send.state === 'sending' && share < 1 ? (
        <View className="items-start">
          <Button label={t`Stop`} onPress={send.stop} />
        </View>
      ) : null}
    </View>
  );
}

import { t } from '@lingui/core/macro';
import X from 'lucide-react-native/icons/x';
import type { ComponentProps } from 'react';
import { View } from 'react-native';
import { Button } from '../ui/Button';
import { StatusMessage } from '../ui/StatusMessage';

interface NoticeBarProps {
  /** alert interrupts whoever listens; status waits its turn. */
  readonly role: 'alert' | 'status';
  readonly kind: ComponentProps<typeof StatusMessage>['status'];
  readonly text: string;
  readonly onClose: () => void;
}

/** A sentence above the screen, until it is closed. */
export function NoticeBar({ role, kind, text, onClose }: NoticeBarProps) {
  return (
    <View role={role} className="flex-row items-center gap-2 border-b border-rule-faint bg-sheet py-1 ps-4 pe-1">
      <View className="flex-1">
        <StatusMessage status={kind}>{text}</StatusMessage>
      </View>
      <Button variant="text" icon={X} label={t`Close`} accessibilityLabel={t`Close this notice`} onPress={onClose} />
    </View>
  );
}

import CircleCheck from 'lucide-react-native/icons/circle-check';
import Clock from 'lucide-react-native/icons/clock';
import CircleX from 'lucide-react-native/icons/circle-x';
import TriangleAlert from 'lucide-react-native/icons/triangle-alert';
import { View } from 'react-native';
import { Text } from './Text';

const STATUSES = {
  wait: { icon: Clock, colour: 'rgb(var(--ink-soft))', tone: 'soft' },
  success: { icon: CircleCheck, colour: 'rgb(var(--moss))', tone: 'moss' },
  warning: { icon: TriangleAlert, colour: 'rgb(var(--amber))', tone: 'amber' },
  error: { icon: CircleX, colour: 'rgb(var(--brick))', tone: 'brick' },
} as const;

/** A state in a sign and a word, never in colour alone; nothing where there is nothing to say. */
export function StatusMessage({
  status,
  children,
  announce = false,
}: {
  readonly status: keyof typeof STATUSES;
  readonly children: string | null;
  readonly announce?: boolean;
}) {
  if (children === null) return null;
  const { icon: StatusIcon, colour, tone } = STATUSES[status];
  return (
    <View className="flex-row items-start gap-1.5" {...(announce ? { role: 'status' as const } : {})}>
      <View aria-hidden className="pt-0.5">
        <StatusIcon size={16} strokeWidth={2} color={colour} />
      </View>
      <Text variant="small" tone={tone} className="shrink">
        {children}
      </Text>
    </View>
  );
}

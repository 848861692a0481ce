import CircleCheck from 'lucide-react-native/icons/circle-check';
import CircleX from 'lucide-react-native/icons/circle-x';
import TriangleAlert from 'lucide-react-native/icons/triangle-alert';
import { View } from 'react-native';
import { Words } from './Words';

const KINDS = {
  fine: { sign: CircleCheck, colour: 'rgb(var(--moss))', tone: 'moss' },
  look: { sign: TriangleAlert, colour: 'rgb(var(--amber))', tone: 'amber' },
  broken: { sign: CircleX, colour: 'rgb(var(--brick))', tone: 'brick' },
} as const;

/** A state in a sign and a word, never in colour alone. */
export function Flag({
  kind,
  children,
  live = false,
}: {
  readonly kind: keyof typeof KINDS;
  readonly children: string;
  readonly live?: boolean;
}) {
  const { sign: Sign, colour, tone } = KINDS[kind];
  return (
    <View className="flex-row items-start gap-1.5" {...(live ? { role: 'status' as const } : {})}>
      <View aria-hidden className="pt-0.5">
        <Sign size={16} strokeWidth={2} color={colour} />
      </View>
      <Words as="small" tone={tone} className="shrink">
        {children}
      </Words>
    </View>
  );
}

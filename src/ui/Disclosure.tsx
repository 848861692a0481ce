import ChevronDown from 'lucide-react-native/icons/chevron-down';
import ChevronUp from 'lucide-react-native/icons/chevron-up';
import { useId, useState, type ReactNode } from 'react';
import { Pressable, View } from 'react-native';
import { Text } from './Text';

interface DisclosureProps {
  readonly title: string;
  /** What is chosen inside, in a line. */
  readonly summary: string;
  readonly summaryTestID?: string;
  readonly children: ReactNode;
}

/** What few need, under a line that says how it stands. */
export function Disclosure({ title, summary, summaryTestID, children }: DisclosureProps) {
  const [open, setOpen] = useState(false);
  const id = useId();
  const Chevron = open ? ChevronUp : ChevronDown;
  return (
    <View className="border-t border-rule-faint">
      <Pressable
        role="button"
        aria-expanded={open}
        aria-controls={id}
        onPress={() => setOpen(!open)}
        className="min-h-[56px] flex-row items-center gap-3 py-2 active:bg-beet-tint"
      >
        <View className="flex-1">
          <Text variant="strong">{title}</Text>
          <Text variant="soft" testID={summaryTestID} className="break-words">
            {summary}
          </Text>
        </View>
        <View aria-hidden>
          <Chevron size={20} strokeWidth={1.75} color="rgb(var(--ink))" />
        </View>
      </Pressable>
      {open ? (
        <View nativeID={id} className="pb-4 pt-1">
          {children}
        </View>
      ) : null}
    </View>
  );
}

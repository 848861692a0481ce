import ChevronDown from 'lucide-react-native/icons/chevron-down';
import ChevronUp from 'lucide-react-native/icons/chevron-up';
import { useId, useState, type ReactNode } from 'react';
import { Pressable, View } from 'react-native';
import { Words } from './Words';

interface FoldProps {
  readonly title: string;
  /** What is chosen inside, in a line. */
  readonly says: string;
  readonly saysTestID?: string;
  readonly children: ReactNode;
}

/** What few need, under a line that says how it stands. */
export function Fold({ title, says, saysTestID, children }: FoldProps) {
  const [open, setOpen] = useState(false);
  const id = useId();
  const Sign = open ? ChevronUp : ChevronDown;
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
          <Words as="strong">{title}</Words>
          <Words as="soft" testID={saysTestID} className="break-words">
            {says}
          </Words>
        </View>
        <View aria-hidden>
          <Sign size={20} strokeWidth={1.75} color="rgb(var(--ink))" />
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

import type { ReactNode } from 'react';
import { View } from 'react-native';
import { CropMarks } from './CropMarks';
import { Text } from './Text';

/** A whole screen or column with one thing to say: nothing here yet, loading, or what went wrong and the way on. */
export function EmptyState({
  title,
  text,
  children,
}: {
  readonly title: string;
  readonly text: string;
  readonly children?: ReactNode;
}) {
  return (
    <View className="flex-1 items-center justify-center p-6">
      <View className="h-36 w-28 gap-2 bg-sheet p-4 shadow-sheet" aria-hidden>
        <CropMarks colour="border-rule" />
        {[60, 75, 45, 70, 30].map((width) => (
          <View key={width} className="h-1 rounded-full bg-rule-faint" style={{ width: `${width}%` }} />
        ))}
      </View>
      <View className="max-w-[360px] items-center gap-2 pt-6">
        <Text variant="title" className="text-center">
          {title}
        </Text>
        <Text tone="soft" className="text-center">
          {text}
        </Text>
        {children}
      </View>
    </View>
  );
}

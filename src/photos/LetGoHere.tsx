import { View } from 'react-native';
import { CropMarks } from '../ui/CropMarks';
import { Text } from '../ui/Text';

/** Lies over a screen while files are held over it, and says what letting go does. */
export function LetGoHere({ says }: { readonly says: string }) {
  return (
    <View
      aria-hidden
      className="pointer-events-none absolute bottom-4 left-4 right-4 top-4 items-center justify-center bg-beet-tint/90"
    >
      <CropMarks />
      <Text variant="title" className="px-6 text-center">
        {says}
      </Text>
    </View>
  );
}

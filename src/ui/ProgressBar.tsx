import { View } from 'react-native';

/** How far something has come; `fraction` is from 0 to 1. */
export function ProgressBar({ label, fraction }: { readonly label: string; readonly fraction: number }) {
  return (
    <View
      role="progressbar"
      aria-label={label}
      aria-valuenow={Math.round(fraction * 100)}
      aria-valuemin={0}
      aria-valuemax={100}
      className="h-3 border border-rule bg-sheet"
    >
      <View className="h-full bg-beet" style={{ width: `${fraction * 100}%` }} />
    </View>
  );
}

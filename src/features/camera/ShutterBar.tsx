import { Pressable, View } from 'react-native';
import { useStore } from 'zustand';
import type { StoreApi } from 'zustand/vanilla';
import type { LiveState } from './liveState';
import { Text } from '../../ui/Text';

interface ShutterBarProps {
  readonly label: string;
  readonly live: StoreApi<LiveState>;
  readonly disabled: boolean;
  readonly onPress: () => void;
}

/** The next thing, in the camera: as wide as the thumb's arc. Hands-free fills it before it fires. */
export function ShutterBar({ label, live, disabled, onPress }: ShutterBarProps) {
  /** 0 to 1: how soon hands-free fires. */
  const coming = useStore(live, (s) => s.handsFree.coming);
  return (
    <Pressable
      role="button"
      aria-label={label}
      aria-disabled={disabled}
      disabled={disabled}
      onPress={onPress}
      testID="shutter"
      className={`min-h-[64px] flex-1 justify-center overflow-hidden rounded ${disabled ? 'bg-rule-faint' : 'bg-next active:opacity-90'}`}
    >
      {coming > 0 ? (
        <View
          aria-hidden
          className="absolute bottom-0 left-0 top-0 bg-on-next/30"
          style={{ width: `${coming * 100}%` }}
        />
      ) : null}
      {coming > 0 ? (
        <View
          aria-hidden
          className="absolute bottom-1 left-1 right-1 top-1 rounded border-2 border-on-next"
          style={{ opacity: coming }}
        />
      ) : null}
      <Text variant="act" tone={disabled ? 'soft' : 'onNext'} numberOfLines={1} className="text-center">
        {label}
      </Text>
    </Pressable>
  );
}

import type { ReactNode } from 'react';
import { Modal, View } from 'react-native';

interface DialogProps {
  readonly label: string;
  /** Escape, and the back button of a phone. */
  readonly onClose: () => void;
  /** A card over the screen, at the bottom of a narrow one; or the whole screen. */
  readonly size?: 'card' | 'full';
  readonly children: ReactNode;
}

/** A dialog that keeps the focus inside until it is closed, and gives it back then. */
export function Dialog({ label, onClose, size = 'card', children }: DialogProps) {
  return (
    <Modal transparent={size === 'card'} onRequestClose={onClose} aria-label={label}>
      {size === 'full' ? (
        <View className="flex-1 bg-paper">{children}</View>
      ) : (
        <View className="flex-1 items-center justify-end bg-night/70 p-3 md:justify-center md:p-6">
          <View className="max-h-full w-full max-w-[560px] gap-3 rounded bg-paper p-4 shadow-sheet md:p-6">
            {children}
          </View>
        </View>
      )}
    </Modal>
  );
}

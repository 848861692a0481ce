import { t } from '@lingui/core/macro';
import { useEffect, useRef, useState } from 'react';
import { View, type LayoutChangeEvent } from 'react-native';
import type { StoreApi } from 'zustand/vanilla';
import type { LiveState } from './liveState';
import { LiveOverlay } from './LiveOverlay';

interface ShootViewProps {
  readonly stream: MediaStream | null;
  readonly video: React.RefObject<HTMLVideoElement | null>;
  readonly live: StoreApi<LiveState>;
}

/** The camera's whole picture, as large as its place allows, with what is found in it. */
export function ShootView({ stream, video, live }: ShootViewProps) {
  const [box, setBox] = useState({ width: 0, height: 0 });
  const [size, setSize] = useState({ width: 0, height: 0 });
  const measure = ({ nativeEvent: { layout } }: LayoutChangeEvent): void =>
    setBox({ width: layout.width, height: layout.height });
  const element = useRef<HTMLVideoElement | null>(null);
  useEffect(() => {
    if (element.current === null) return;
    element.current.srcObject = stream;
    // a browser that wants a tap first gets one: the shutter
    if (stream !== null) element.current.play().catch(() => undefined);
  }, [stream]);
  const scale = size.width === 0 ? 0 : Math.min(box.width / size.width, box.height / size.height);
  const place = {
    left: (box.width - size.width * scale) / 2,
    top: (box.height - size.height * scale) / 2,
    width: size.width * scale,
    height: size.height * scale,
  };
  return (
    <View className="flex-1 overflow-hidden" onLayout={measure}>
      <video
        ref={(node) => {
          element.current = node;
          video.current = node;
        }}
        muted
        playsInline
        aria-label={t`What the camera sees`}
        onResize={({ currentTarget: { videoWidth: width, videoHeight: height } }) => setSize({ width, height })}
        onLoadedMetadata={({ currentTarget: { videoWidth: width, videoHeight: height } }) => setSize({ width, height })}
        style={{ position: 'absolute', inset: 0, width: '100%', height: '100%', objectFit: 'contain' }}
      />
      <LiveOverlay live={live} place={place} />
    </View>
  );
}

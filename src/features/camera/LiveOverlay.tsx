import { View } from 'react-native';
import Svg, { Path, Polygon } from 'react-native-svg';
import { useStore } from 'zustand';
import type { StoreApi } from 'zustand/vanilla';
import type { LiveState } from './liveState';
import { lerpPoint, type Point } from '../../../core/imaging/geometry/point';
import { mapQuad } from '../../../core/imaging/geometry/quad';

interface LiveOverlayProps {
  readonly live: StoreApi<LiveState>;
  /** The place of the frame on the screen, px. */
  readonly place: { readonly left: number; readonly top: number; readonly width: number; readonly height: number };
}

/** What is found, as crop marks with a hairline between them: the surer, the longer the ticks. */
export function LiveOverlay({ live, place }: LiveOverlayProps) {
  const { steady, lastSeen: frame, coaching } = useStore(live);
  if (steady.shown === null || frame === null || frame.width === 0) return null;
  const certainty = coaching === 'ready' ? 1 : Math.max(0, steady.confidence - 0.5);
  const scale = place.width / frame.width;
  const onScreen = mapQuad(steady.shown, (p) => ({ x: p.x * scale, y: p.y * scale }));
  const ticks = onScreen
    .map((corner, i) => tickPath(onScreen[(i + 3) % 4]!, corner, onScreen[(i + 1) % 4]!, 0.07 + 0.11 * certainty))
    .join('');
  return (
    <View testID="live-outline" className="pointer-events-none absolute" style={place} aria-hidden>
      <Svg width={place.width} height={place.height}>
        <Polygon
          points={onScreen.map((p) => `${p.x},${p.y}`).join(' ')}
          fill="none"
          stroke="rgb(245 241 232)"
          strokeOpacity={0.75}
          strokeWidth={1}
        />
        <Path d={ticks} fill="none" stroke="rgb(22 19 31)" strokeOpacity={0.7} strokeWidth={6} strokeLinejoin="round" />
        <Path d={ticks} fill="none" stroke="rgb(242 141 184)" strokeWidth={3} strokeLinejoin="round" />
      </Svg>
    </View>
  );
}

function tickPath(before: Point, corner: Point, after: Point, share: number): string {
  const a = lerpPoint(corner, before, share);
  const b = lerpPoint(corner, after, share);
  return `M${a.x} ${a.y}L${corner.x} ${corner.y}L${b.x} ${b.y}`;
}

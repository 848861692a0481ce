import { useEffect, useMemo, useRef } from 'react';
import { PanResponder, View, type ViewProps } from 'react-native';
import Svg, { Path } from 'react-native-svg';
import type { Point } from '../../core/geometry/point';

const NAMES = ['top left', 'top right', 'bottom right', 'bottom left'] as const;
/** The corner tick opens towards the page's inside. */
const TICKS = ['M22 40V22H40', 'M22 40V22H4', 'M22 4V22H4', 'M22 4V22H40'] as const;
const TARGET_PX = 44;
const ARROWS: Readonly<Record<string, readonly [number, number]>> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };
const BIG_STEP = 10;

interface CornerHandleProps {
  readonly index: number;
  /** Place on the screen, px from the photo's top left. */
  readonly at: Point;
  /** Screen px for one px of the original. */
  readonly scale: number;
  /** Place in the original. */
  readonly corner: Point;
  readonly onMove: (to: Point) => void;
}

/** One corner: dragged with a finger or the mouse, or nudged with the arrow keys (with Shift by ten pixels). */
export function CornerHandle({ index, at, scale, corner, onMove }: CornerHandleProps) {
  // the responder is made once; it reads what is current through this
  const current = useRef({ corner, scale, onMove });
  useEffect(() => {
    current.current = { corner, scale, onMove };
  });
  const responder = useMemo(() => {
    let start: Point = { x: 0, y: 0 };
    return PanResponder.create({
      onStartShouldSetPanResponder: () => true,
      onPanResponderTerminationRequest: () => false,
      onPanResponderGrant: () => {
        start = current.current.corner;
      },
      onPanResponderMove: (_event, { dx, dy }) => {
        const { scale: factor, onMove: move } = current.current;
        move({ x: start.x + dx / factor, y: start.y + dy / factor });
      },
    });
  }, []);
  const keys = {
    onKeyDown: (event: { key: string; shiftKey: boolean; preventDefault(): void }) => {
      const arrow = ARROWS[event.key];
      if (arrow === undefined) return;
      event.preventDefault();
      const step = event.shiftKey ? BIG_STEP : 1;
      onMove({ x: corner.x + arrow[0] * step, y: corner.y + arrow[1] * step });
    },
  } as ViewProps;
  return (
    <View
      {...responder.panHandlers}
      {...keys}
      role="slider"
      tabIndex={0}
      aria-label={`Corner ${NAMES[index]}`}
      aria-valuetext={`${Math.round(corner.x)} across, ${Math.round(corner.y)} down`}
      aria-valuenow={Math.round(corner.x)}
      style={{ position: 'absolute', left: at.x - TARGET_PX / 2, top: at.y - TARGET_PX / 2, width: TARGET_PX, height: TARGET_PX, ...({ touchAction: 'none', cursor: 'move' } as object) }}
    >
      <Svg width={TARGET_PX} height={TARGET_PX}>
        <Path d={TICKS[index]} stroke="rgb(22 19 31)" strokeWidth={6} fill="none" />
        <Path d={TICKS[index]} stroke="rgb(242 141 184)" strokeWidth={3} fill="none" />
      </Svg>
    </View>
  );
}

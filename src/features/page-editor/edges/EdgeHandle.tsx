import { useEffect, useMemo, useRef } from 'react';
import { PanResponder, View, type GestureResponderEvent, type ViewProps } from 'react-native';
import Svg, { Path } from 'react-native-svg';
import type { Point } from '../../../../core/imaging/geometry/point';

const TARGET_PX = 44;
const ARROWS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};
const BIG_STEP = 10;

interface EdgeHandleProps {
  readonly label: string;
  readonly valueText: string;
  readonly valueNow: number;
  /** Its sign, drawn in a square of 44. */
  readonly sign: string;
  /** Degrees the sign is turned by. */
  readonly turn?: number;
  /** Place on the screen, px from the photo's top left. */
  readonly at: Point;
  /** Screen px for one px of the original. */
  readonly scale: number;
  readonly onBegin: () => void;
  /** How far it was dragged since it was taken hold of, px of the original; free when Alt is held, so that it does not snap. */
  readonly onDrag: (by: Point, free: boolean) => void;
  readonly onEnd: () => void;
  /** Reached by the keyboard. */
  readonly onFocus: () => void;
}

/** Something to take hold of: dragged with a finger or the mouse, or nudged with the arrow keys (with Shift by ten pixels). */
export function EdgeHandle({
  label,
  valueText,
  valueNow,
  sign,
  turn = 0,
  at,
  scale,
  onBegin,
  onDrag,
  onEnd,
  onFocus,
}: EdgeHandleProps) {
  // the responder is made once; it reads what is current through this
  const current = useRef({ scale, onBegin, onDrag, onEnd });
  useEffect(() => {
    current.current = { scale, onBegin, onDrag, onEnd };
  });
  const responder = useMemo(
    () =>
      PanResponder.create({
        // a second finger elsewhere takes hold of nothing
        onStartShouldSetPanResponder: (event) => event.nativeEvent.touches.length <= 1,
        onPanResponderTerminationRequest: () => false,
        onPanResponderGrant: () => current.current.onBegin(),
        onPanResponderMove: (event: GestureResponderEvent, { dx, dy }) => {
          // two fingers zoom
          if (event.nativeEvent.touches.length > 1) return;
          current.current.onDrag(
            { x: dx / current.current.scale, y: dy / current.current.scale },
            (event.nativeEvent as unknown as { altKey?: boolean }).altKey === true,
          );
        },
        onPanResponderRelease: () => current.current.onEnd(),
        onPanResponderTerminate: () => current.current.onEnd(),
      }),
    [],
  );
  const keys = {
    onKeyDown: (event: { key: string; shiftKey: boolean; preventDefault(): void }) => {
      const arrow = ARROWS[event.key];
      if (arrow === undefined) return;
      event.preventDefault();
      const by = event.shiftKey ? BIG_STEP : 1;
      onBegin();
      onDrag({ x: arrow[0] * by, y: arrow[1] * by }, true);
    },
    onBlur: onEnd,
    // under a finger it must not move away
    onFocus: ({ currentTarget }: { currentTarget: unknown }) => {
      if ((currentTarget as Element).matches(':focus-visible')) onFocus();
    },
  } as ViewProps;
  return (
    <View
      {...responder.panHandlers}
      {...keys}
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuetext={valueText}
      aria-valuenow={valueNow}
      style={{
        position: 'absolute',
        left: at.x - TARGET_PX / 2,
        top: at.y - TARGET_PX / 2,
        width: TARGET_PX,
        height: TARGET_PX,
        transform: [{ rotate: `${turn}deg` }],
        ...({ touchAction: 'none', cursor: 'move' } as object),
      }}
    >
      <Svg width={TARGET_PX} height={TARGET_PX}>
        <Path d={sign} stroke="rgb(22 19 31)" strokeWidth={6} fill="none" />
        <Path d={sign} stroke="rgb(242 141 184)" strokeWidth={3} fill="none" />
      </Svg>
    </View>
  );
}

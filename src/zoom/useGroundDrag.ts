import { useEffect, useMemo, useRef } from 'react';
import { PanResponder, type GestureResponderHandlers } from 'react-native';
import type { Point } from '../../core/imaging/geometry/point';
import type { Zoom } from './useZoom';

/**
 * Moves a zoomed page by dragging its ground, where nothing else takes hold.
 * @param held - where the page is, px on the screen
 */
export function useGroundDrag(zoom: Zoom, held: Point): GestureResponderHandlers {
  // the responder is made once; it reads what is current through this
  const current = useRef({ zoom, held });
  useEffect(() => {
    current.current = { zoom, held };
  });
  const from = useRef<Point | null>(null);
  return useMemo(
    () =>
      PanResponder.create({
        onStartShouldSetPanResponder: (event) =>
          current.current.zoom.factor > 1 && event.nativeEvent.touches.length <= 1,
        onPanResponderGrant: () => {
          from.current = current.current.held;
        },
        onPanResponderMove: (event, { dx, dy }) => {
          if (event.nativeEvent.touches.length > 1) from.current = null;
          if (from.current !== null) current.current.zoom.moveTo({ x: from.current.x + dx, y: from.current.y + dy });
        },
      }).panHandlers,
    [],
  );
}

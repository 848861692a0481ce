import { useEffect, useMemo, useRef, useState, type RefObject } from 'react';
import { PanResponder, type GestureResponderEvent, type GestureResponderHandlers, type View } from 'react-native';
import type { Point } from '../../core/imaging/geometry/point';
import type { Zoom } from './useZoom';

export interface StrokeGesture {
  /** The page that is drawn on. */
  readonly sheet: RefObject<View | null>;
  readonly handlers: GestureResponderHandlers;
  /** The stroke under the finger, in shares of the page; empty between strokes. */
  readonly stroke: readonly Point[];
}

/**
 * Strokes on a zoomed page, with a finger or the mouse; while the page is being moved it moves instead.
 * @param held - where the page is, px on the screen
 * @param onStroke - called at its end
 */
export function useStrokeGesture(zoom: Zoom, held: Point, onStroke: (places: readonly Point[]) => void): StrokeGesture {
  const [stroke, setStroke] = useState<readonly Point[]>([]);
  const sheet = useRef<View>(null);
  const begun = useRef<{ rect: DOMRect; offset: Point; places: Point[] } | null>(null);
  // the responder is made once; it reads what is current through this
  const current = useRef({ onStroke, zoom, held });
  useEffect(() => {
    current.current = { onStroke, zoom, held };
  });
  const responder = useMemo(() => {
    const placeOf = ({ nativeEvent: { pageX, pageY } }: GestureResponderEvent, rect: DOMRect): Point => ({
      x: (pageX - rect.left - window.scrollX) / rect.width,
      y: (pageY - rect.top - window.scrollY) / rect.height,
    });
    const finish = (): void => {
      const places = begun.current?.places ?? [];
      begun.current = null;
      setStroke([]);
      if (places.length > 0 && !current.current.zoom.moving) current.current.onStroke(places);
    };
    return PanResponder.create({
      onStartShouldSetPanResponder: (event) => event.nativeEvent.touches.length <= 1,
      onPanResponderTerminationRequest: () => false,
      onPanResponderGrant: (event) => {
        const rect = (sheet.current as unknown as HTMLElement).getBoundingClientRect();
        const places = current.current.zoom.moving ? [] : [placeOf(event, rect)];
        begun.current = { rect, offset: current.current.held, places };
        setStroke(places);
      },
      onPanResponderMove: (event, { dx, dy }) => {
        // a second finger zooms: what the first one drew on its way there is no stroke
        if (event.nativeEvent.touches.length > 1) {
          begun.current = null;
          setStroke([]);
        }
        const from = begun.current;
        if (from === null) return;
        if (current.current.zoom.moving) {
          current.current.zoom.moveTo({ x: from.offset.x + dx, y: from.offset.y + dy });
          return;
        }
        from.places.push(placeOf(event, from.rect));
        setStroke([...from.places]);
      },
      onPanResponderRelease: finish,
      onPanResponderTerminate: finish,
    });
  }, []);
  return { sheet, handlers: responder.panHandlers, stroke };
}

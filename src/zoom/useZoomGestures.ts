import { useEffect, useRef, type RefObject } from 'react';
import type { View } from 'react-native';
import type { Point } from '../../core/imaging/geometry/point';
import { useKeys } from '../ui/useKeys';
import type { Zoom } from './useZoom';

const WHEEL_STEP = 1.15;
const KEY_STEP = 1.4;

/** Two fingers on the screen: where their middle is and how far they are apart, in px. */
const spanOf = ([a, b]: readonly Point[]): { middle: Point; apart: number } => ({
  middle: { x: (a!.x + b!.x) / 2, y: (a!.y + b!.y) / 2 },
  apart: Math.hypot(a!.x - b!.x, a!.y - b!.y),
});

/**
 * Zooms by pinching, by the wheel and by the keys + − 0, and moves the page with two fingers: the same wherever a page is shown
 * large. What one finger does is the editor's own.
 * @param held - where the page is, px on the screen
 * @returns to be given to the place that the page lies in
 */
export function useZoomGestures(zoom: Zoom, held: Point): RefObject<View | null> {
  const place = useRef<View>(null);
  // the listeners are set once; they read what is current through this
  const current = useRef({ zoom, held });
  useEffect(() => {
    current.current = { zoom, held };
  });
  useKeys(
    {
      '+': () => zoom.by(KEY_STEP),
      '=': () => zoom.by(KEY_STEP),
      '-': () => zoom.by(1 / KEY_STEP),
      '0': () => zoom.by(1 / zoom.factor),
    },
    true,
  );
  useEffect(() => {
    const element = place.current as unknown as HTMLElement;
    const fingers = new Map<number, Point>();
    /** As it was when the second finger came down: between two frames there may be several moves. */
    let begun: { readonly span: ReturnType<typeof spanOf>; readonly factor: number; readonly held: Point } | null =
      null;
    const put = (event: PointerEvent): void => {
      if (event.pointerType === 'touch') fingers.set(event.pointerId, { x: event.clientX, y: event.clientY });
    };
    const down = (event: PointerEvent): void => {
      put(event);
      const { zoom: at, held: from } = current.current;
      begun = fingers.size === 2 ? { span: spanOf([...fingers.values()]), factor: at.factor, held: from } : null;
    };
    const move = (event: PointerEvent): void => {
      if (!fingers.has(event.pointerId)) return;
      put(event);
      if (begun === null) return;
      const now = spanOf([...fingers.values()]);
      const by = now.apart / begun.span.apart;
      const { zoom: at } = current.current;
      at.by((begun.factor * by) / at.factor);
      if (begun.factor * by > 1)
        at.moveTo({
          x: begun.held.x * by + now.middle.x - begun.span.middle.x,
          y: begun.held.y * by + now.middle.y - begun.span.middle.y,
        });
    };
    const up = (event: PointerEvent): void => {
      fingers.delete(event.pointerId);
      begun = null;
    };
    const wheel = (event: WheelEvent): void => {
      event.preventDefault();
      current.current.zoom.by(event.deltaY < 0 ? WHEEL_STEP : 1 / WHEEL_STEP);
    };
    element.addEventListener('pointerdown', down);
    element.addEventListener('wheel', wheel, { passive: false });
    window.addEventListener('pointermove', move);
    window.addEventListener('pointerup', up);
    window.addEventListener('pointercancel', up);
    return () => {
      element.removeEventListener('pointerdown', down);
      element.removeEventListener('wheel', wheel);
      window.removeEventListener('pointermove', move);
      window.removeEventListener('pointerup', up);
      window.removeEventListener('pointercancel', up);
    };
  }, []);
  return place;
}

import { useState } from 'react';
import type { Point } from '../../core/imaging/geometry/point';

const MOST = 4;

export interface Zoom {
  readonly factor: number;
  /** From the middle, px on the screen. */
  readonly offset: Point;
  /** Dragging moves the page and does not paint. */
  readonly moving: boolean;
  readonly by: (factor: number) => void;
  readonly moveTo: (offset: Point) => void;
  readonly toggleMoving: () => void;
}

/** How large a page is shown and where. */
export function useZoom(): Zoom {
  const [factor, setFactor] = useState(1);
  const [offset, setOffset] = useState<Point>({ x: 0, y: 0 });
  const [moving, setMoving] = useState(false);
  return {
    factor,
    offset,
    moving,
    by: (by) => {
      const next = Math.min(MOST, Math.max(1, factor * by));
      setFactor(next);
      setOffset(next === 1 ? { x: 0, y: 0 } : { x: (offset.x * next) / factor, y: (offset.y * next) / factor });
      if (next === 1) setMoving(false);
    },
    moveTo: setOffset,
    toggleMoving: () => setMoving(!moving),
  };
}

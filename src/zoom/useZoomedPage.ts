import { useState } from 'react';
import type { LayoutChangeEvent } from 'react-native';
import type { Point } from '../../core/imaging/geometry/point';
import type { Zoom } from './useZoom';

export interface ZoomedPage {
  /** Measures the place that the page lies in. */
  readonly measure: (event: LayoutChangeEvent) => void;
  /** Size on the screen, px; 0 until both the place and the picture are known. */
  readonly width: number;
  readonly height: number;
  /** From the middle of the place, px: as it was moved, but never out of sight. */
  readonly held: Point;
}

/** Where and how large a page is shown in a place of its own. */
export function useZoomedPage(
  picture: { readonly width: number; readonly height: number } | null,
  zoom: Zoom,
  marginPx: number,
): ZoomedPage {
  const [box, setBox] = useState({ width: 0, height: 0 });
  const fit =
    picture === null
      ? 0
      : Math.max(0, Math.min((box.width - 2 * marginPx) / picture.width, (box.height - 2 * marginPx) / picture.height));
  const width = (picture?.width ?? 0) * fit * zoom.factor;
  const height = (picture?.height ?? 0) * fit * zoom.factor;
  const within = (offset: number, size: number, room: number): number => {
    const most = Math.max(0, (size - room) / 2 + marginPx);
    return Math.min(most, Math.max(-most, offset));
  };
  return {
    measure: ({ nativeEvent: { layout } }) => setBox({ width: layout.width, height: layout.height }),
    width,
    height,
    held: { x: within(zoom.offset.x, width, box.width), y: within(zoom.offset.y, height, box.height) },
  };
}

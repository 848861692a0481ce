import { t } from '@lingui/core/macro';
import { useState } from 'react';
import { View, type ViewProps } from 'react-native';
import Svg, { Circle, Polyline } from 'react-native-svg';
import type { Point } from '../../../../core/imaging/geometry/point';
import type { Page } from '../../../../core/work/hand-in/handIn';
import { BitmapCanvas } from '../../../ui/BitmapCanvas';
import { StatusMessage } from '../../../ui/StatusMessage';
import { useUndoKeys } from '../../../frame/useUndoKeys';
import { Text } from '../../../ui/Text';
import { useLatestPicture } from '../../../page-picture/useLatestPicture';
import { useStrokeGesture } from '../../../zoom/useStrokeGesture';
import type { Zoom } from '../../../zoom/useZoom';
import { useZoomGestures } from '../../../zoom/useZoomGestures';
import { useZoomedPage } from '../../../zoom/useZoomedPage';
import type { MendDraft } from './useMendDraft';

const MARGIN_PX = 16;
const ARROWS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

interface MendEditorProps {
  readonly page: Page;
  readonly draft: MendDraft;
  readonly zoom: Zoom;
  /** As the page was shown before the tool was opened: its flat copy is then at hand. */
  readonly longSidePx: number;
  readonly wide: boolean;
}

/** The flat page under the mending brush: painted with a finger or the mouse, or with arrow keys and the space bar. */
export function MendEditor({ page, draft, zoom, longSidePx, wide }: MendEditorProps) {
  const picture = useLatestPicture(page, draft.recipe, longSidePx, true);
  const { measure, width, height, held } = useZoomedPage(picture, zoom, MARGIN_PX);
  const place = useZoomGestures(zoom, held);
  const [cursor, setCursor] = useState<Point | null>(null);
  useUndoKeys(draft.undo, draft.redo);

  const { sheet, handlers, stroke } = useStrokeGesture(zoom, held, draft.paint);
  const keys = {
    onKeyDown: (event: { key: string; shiftKey: boolean; preventDefault(): void }) => {
      const arrow = ARROWS[event.key];
      const at = cursor ?? { x: 0.5, y: 0.5 };
      if (arrow !== undefined) {
        event.preventDefault();
        const by = draft.brush * (event.shiftKey ? 3 : 0.5);
        setCursor({
          x: Math.min(1, Math.max(0, at.x + arrow[0] * by)),
          y: Math.min(1, Math.max(0, at.y + arrow[1] * by * (width / Math.max(1, height)))),
        });
      } else if (event.key === ' ' || event.key === 'Enter') {
        event.preventDefault();
        setCursor(at);
        draft.paint([at]);
      }
    },
    onBlur: () => setCursor(null),
  } as ViewProps;
  const radius = draft.brush * width;
  const shown = stroke.length > 0 ? stroke : cursor !== null ? [cursor] : [];
  const places = shown.map(({ x, y }) => `${x * width},${y * height}`).join(' ');
  return (
    <View className="flex-1 select-none bg-night">
      <View
        ref={place}
        className="flex-1 items-center justify-center overflow-hidden"
        onLayout={measure}
        style={{ ...({ touchAction: 'none' } as object) }}
      >
        {picture === null ? <Text tone="chalk">{t`Working …`}</Text> : null}
        {picture !== null && width > 0 ? (
          <View
            ref={sheet}
            {...handlers}
            {...keys}
            role="application"
            tabIndex={0}
            aria-label={t`The page under the mending brush. Arrow keys move the brush, the space bar paints.`}
            style={{
              width,
              height,
              flexShrink: 0,
              transform: [{ translateX: held.x }, { translateY: held.y }],
              ...({ touchAction: 'none', cursor: zoom.moving ? 'grab' : 'crosshair' } as object),
            }}
          >
            <BitmapCanvas
              bitmap={picture}
              label={t`The page as it will be`}
              style={{ width, height }}
              testID="mend-picture"
            />
            {shown.length > 0 ? (
              <View className="pointer-events-none absolute inset-0" aria-hidden>
                <Svg width={width} height={height}>
                  {shown.length === 1 ? (
                    <Circle
                      cx={shown[0]!.x * width}
                      cy={shown[0]!.y * height}
                      r={radius}
                      fill="rgb(155 27 90)"
                      fillOpacity={stroke.length > 0 ? 0.4 : 0.15}
                      stroke="rgb(155 27 90)"
                      strokeWidth={2}
                    />
                  ) : (
                    <Polyline
                      points={places}
                      fill="none"
                      stroke="rgb(155 27 90)"
                      strokeOpacity={0.4}
                      strokeWidth={2 * radius}
                      strokeLinecap="round"
                      strokeLinejoin="round"
                    />
                  )}
                </Svg>
              </View>
            ) : null}
          </View>
        ) : null}
      </View>
      <View className="min-h-[28px] justify-center bg-paper px-4 pt-1">
        {draft.full ? (
          <StatusMessage status="warning" announce>
            {t`No more strokes fit on this page. Take some back first.`}
          </StatusMessage>
        ) : (
          <Text variant="soft">
            {zoom.moving
              ? t`Drag the page to move it.`
              : t`Paint over what should not be there.${{ more: wide ? ` ${t`Arrow keys and the space bar do it too.`}` : '' }}`}
          </Text>
        )}
      </View>
    </View>
  );
}

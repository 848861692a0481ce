import { msg, t } from '@lingui/core/macro';
import { useState } from 'react';
import { TextInput, View, type ViewProps } from 'react-native';
import Svg, { Circle, Path } from 'react-native-svg';
import type { Point } from '../../../../core/imaging/geometry/point';
import type { Page } from '../../../../core/work/hand-in/handIn';
import { HIGHLIGHTER_OPACITY } from '../../../../core/work/marks/marks';
import { Button } from '../../../ui/Button';
import { BitmapCanvas } from '../../../ui/BitmapCanvas';
import { StatusMessage } from '../../../ui/StatusMessage';
import { useUndoKeys } from '../../../frame/useUndoKeys';
import { Text } from '../../../ui/Text';
import { useLatestPicture } from '../../../page-picture/useLatestPicture';
import { useStrokeGesture } from '../../../zoom/useStrokeGesture';
import type { Zoom } from '../../../zoom/useZoom';
import { useZoomGestures } from '../../../zoom/useZoomGestures';
import { useZoomedPage } from '../../../zoom/useZoomedPage';
import { MarksShown, PageMarks, strokePath } from '../../../page-picture/PageMarks';
import { markWidth, type MarkDraft } from './useMarkDraft';

const MARGIN_PX = 16;
const ARROWS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};
const STEP = 0.02;

const SAYS = {
  pen: msg`Write with a finger, a pen or the mouse.`,
  highlighter: msg`Draw over the words to highlight.`,
  note: msg`Tap where the note begins.`,
  signature: msg`Tap where the middle of your signature goes.`,
  eraser: msg`Touch a mark to rub it out.`,
} as const;

interface MarkEditorProps {
  readonly page: Page;
  readonly draft: MarkDraft;
  readonly zoom: Zoom;
  readonly longSidePx: number;
}

/** The page under the pen. With keys: arrows move a point, the space bar sets down what is in hand there. */
export function MarkEditor({ page, draft, zoom, longSidePx }: MarkEditorProps) {
  const picture = useLatestPicture(page, page.recipe, longSidePx, true);
  const { measure, width, height, held } = useZoomedPage(picture, zoom, MARGIN_PX);
  const place = useZoomGestures(zoom, held);
  const { sheet, handlers, stroke } = useStrokeGesture(zoom, held, (places) => draft.draw(places, width, height));
  const [cursor, setCursor] = useState<Point | null>(null);
  useUndoKeys(draft.undo, draft.redo, draft.note === null);
  const keys = {
    onKeyDown: (event: { key: string; shiftKey: boolean; preventDefault(): void }) => {
      const arrow = ARROWS[event.key];
      const at = cursor ?? { x: 0.5, y: 0.5 };
      if (arrow !== undefined) {
        event.preventDefault();
        const to = {
          x: Math.min(1, Math.max(0, at.x + arrow[0] * STEP)),
          y: Math.min(1, Math.max(0, at.y + arrow[1] * STEP)),
        };
        // with Shift the arrow draws
        if (event.shiftKey && (draft.tool === 'pen' || draft.tool === 'highlighter'))
          draft.draw([at, to], width, height);
        setCursor(to);
      } else if (event.key === ' ' || event.key === 'Enter') {
        event.preventDefault();
        setCursor(at);
        draft.draw([at], width, height);
      }
    },
    onBlur: () => setCursor(null),
  } as ViewProps;
  const drawn =
    stroke.length > 0 && (draft.tool === 'pen' || draft.tool === 'highlighter')
      ? strokePath(
          {
            kind: draft.tool,
            id: '',
            colour: draft.colour,
            width: markWidth(draft.tool, draft.breadth),
            points: stroke,
          },
          width,
          height,
        )
      : null;
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
            aria-label={t`The page under the pen. Arrow keys move the point, the space bar sets down what is in hand, Shift and an arrow draws.`}
            style={{
              width,
              height,
              flexShrink: 0,
              transform: [{ translateX: held.x }, { translateY: held.y }],
              ...({ touchAction: 'none', cursor: zoom.moving ? 'grab' : 'crosshair' } as object),
            }}
          >
            <BitmapCanvas bitmap={picture} label={t`The page`} style={{ width, height }} />
            {/* what is being written is always seen, whatever the switch says */}
            <MarksShown.Provider value>
              <PageMarks marks={draft.marks} width={width} height={height} />
            </MarksShown.Provider>
            <View className="pointer-events-none absolute inset-0" aria-hidden>
              <Svg width={width} height={height}>
                {drawn === null ? null : (
                  <Path
                    d={drawn}
                    fill={draft.colour}
                    fillOpacity={draft.tool === 'highlighter' ? HIGHLIGHTER_OPACITY : 1}
                  />
                )}
                {cursor === null ? null : (
                  <Circle
                    cx={cursor.x * width}
                    cy={cursor.y * height}
                    r={8}
                    fill="none"
                    stroke="rgb(155 27 90)"
                    strokeWidth={2}
                  />
                )}
              </Svg>
            </View>
          </View>
        ) : null}
      </View>
      {draft.note === null ? (
        <View className="min-h-[28px] justify-center bg-paper px-4 pt-1">
          {draft.full ? (
            <StatusMessage status="warning" announce>
              {t`No more marks fit on this page. Rub some out first.`}
            </StatusMessage>
          ) : (
            <Text variant="soft">{zoom.moving ? t`Drag the page to move it.` : t(SAYS[draft.tool])}</Text>
          )}
        </View>
      ) : (
        <NoteField draft={draft} text={draft.note.text} />
      )}
    </View>
  );
}

function NoteField({ draft, text }: { readonly draft: MarkDraft; readonly text: string }) {
  return (
    <View className="gap-2 bg-paper p-3">
      <TextInput
        aria-label={t`The note`}
        value={text}
        onChangeText={draft.writeNote}
        multiline
        autoFocus
        maxLength={500}
        className="min-h-[64px] rounded border border-rule bg-sheet p-2 font-read text-read text-ink"
      />
      <View className="flex-row gap-2">
        <View className="flex-1">
          <Button label={t`Put it there`} pressed onPress={draft.keepNote} />
        </View>
        <Button label={t`No note`} onPress={draft.dropNote} />
      </View>
    </View>
  );
}

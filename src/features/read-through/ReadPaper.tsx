import { t } from '@lingui/core/macro';
import { useEffect, useMemo, useRef } from 'react';
import { Image, PanResponder, View } from 'react-native';
import type { Point } from '../../../core/imaging/geometry/point';
import type { PageWord } from '../../../core/work/words/pageWord';
import type { Page } from '../../../core/work/hand-in/handIn';
import { PageMarks } from '../../page-picture/PageMarks';
import { Text } from '../../ui/Text';
import { usePagePicture } from '../../page-picture/usePagePicture';
import type { Zoom } from '../../zoom/useZoom';
import { useZoomGestures } from '../../zoom/useZoomGestures';
import { useZoomedPage } from '../../zoom/useZoomedPage';

const FIRST_LONG_SIDE_PX = 1400;
/** All the detail a page has, for reading closer. */
const FULL_LONG_SIDE_PX = 6000;
const FULL_FROM = 1.2;
const SWIPE_PX = 60;
const MARGIN_PX = 8;

interface ReadPaperProps {
  readonly page: Page;
  readonly label: string;
  readonly zoom: Zoom;
  readonly onSwipe: (by: 1 | -1) => void;
  /** Words to be pointed out. */
  readonly found: readonly PageWord[];
}

/** One page, moved with a finger, closer by pinching or with the wheel; swiped away when it is seen whole. */
export function ReadPaper({ page, label, zoom, onSwipe, found }: ReadPaperProps) {
  const close = zoom.factor > FULL_FROM;
  const first = usePagePicture(page, page.recipe, FIRST_LONG_SIDE_PX);
  const full = usePagePicture(page, page.recipe, close ? FULL_LONG_SIDE_PX : FIRST_LONG_SIDE_PX, close);
  const shown = close && full.state === 'ready' ? full : first;
  const picture = shown.state === 'ready' ? shown.picture : null;
  const { measure, width, height, held } = useZoomedPage(picture, zoom, MARGIN_PX);

  const place = useZoomGestures(zoom, held);
  const begun = useRef<Point | null>(null);
  // the responder is made once; it reads what is current through this
  const current = useRef({ zoom, held, onSwipe });
  useEffect(() => {
    current.current = { zoom, held, onSwipe };
  });
  const responder = useMemo(() => {
    return PanResponder.create({
      onStartShouldSetPanResponder: () => true,
      onPanResponderGrant: () => (begun.current = current.current.held),
      onPanResponderMove: (event, { dx, dy }) => {
        // two fingers zoom
        if (event.nativeEvent.touches.length > 1) begun.current = null;
        const from = begun.current;
        const { zoom: now } = current.current;
        if (from !== null && now.factor > 1) now.moveTo({ x: from.x + dx, y: from.y + dy });
      },
      onPanResponderRelease: (_event, { dx, dy }) => {
        if (
          begun.current !== null &&
          current.current.zoom.factor === 1 &&
          Math.abs(dx) > SWIPE_PX &&
          Math.abs(dx) > 2 * Math.abs(dy)
        )
          current.current.onSwipe(dx < 0 ? 1 : -1);
        begun.current = null;
      },
    });
  }, []);
  return (
    <View
      className="flex-1 select-none items-center justify-center overflow-hidden"
      ref={place}
      onLayout={measure}
      {...responder.panHandlers}
      style={{ ...({ touchAction: 'none' } as object) }}
    >
      {picture !== null && width > 0 ? (
        <View
          className="pointer-events-none"
          style={{ width, height, flexShrink: 0, transform: [{ translateX: held.x }, { translateY: held.y }] }}
        >
          <Image
            source={{ uri: picture.url }}
            accessibilityLabel={label}
            resizeMode="stretch"
            style={{ width, height }}
            testID={close && full.state === 'ready' ? 'full-detail' : 'first-look'}
          />
          <PageMarks marks={page.recipe.marks} width={width} height={height} />
          {found.map((word, i) => (
            <View
              key={i}
              testID="found-word"
              className="absolute border-2 border-beet bg-beet/20"
              style={{
                left: word.x * width - 3,
                top: word.y * height - 3,
                width: word.width * width + 6,
                height: word.height * height + 6,
              }}
            />
          ))}
        </View>
      ) : shown.state === 'failed' ? (
        <Text tone="chalk" className="p-6 text-center">
          {shown.problem}
        </Text>
      ) : (
        <Text tone="chalk">{t`Working …`}</Text>
      )}
    </View>
  );
}

import { msg, plural, t } from '@lingui/core/macro';
import { useState } from 'react';
import { Image, View } from 'react-native';
import Svg, { Path } from 'react-native-svg';
import { bendAt, pointOnBentSide, ringOf } from '../../../../core/imaging/geometry/bentOutline';
import { lerpPoint, scalePoint, type Point } from '../../../../core/imaging/geometry/point';
import type { Page } from '../../../../core/work/hand-in/handIn';
import { BitmapCanvas } from '../../../ui/BitmapCanvas';
import { StatusMessage } from '../../../ui/StatusMessage';
import { useUndoKeys } from '../../../frame/useUndoKeys';
import { Text } from '../../../ui/Text';
import { usePagePicture } from '../../../page-picture/usePagePicture';
import type { PageEditing } from '../usePageEditing';
import { useGroundDrag } from '../../../zoom/useGroundDrag';
import type { Zoom } from '../../../zoom/useZoom';
import { useZoomedPage } from '../../../zoom/useZoomedPage';
import { useZoomGestures } from '../../../zoom/useZoomGestures';
import { EDGES_WORDS } from './edgesWords';
import { EdgeHandle } from './EdgeHandle';
import { Loupe } from './Loupe';

/** Room around the photo so that a corner at its border can still be taken hold of. */
const MARGIN_PX = 26;
/** A handle sticks to a found edge this near, px on the screen. */
const SNAP_REACH_PX = 9;
const CURVE_STEPS = 24;

const CORNERS = [
  msg`Corner top left`,
  msg`Corner top right`,
  msg`Corner bottom right`,
  msg`Corner bottom left`,
] as const;
const SIDES = [
  { move: msg`Side top`, bend: msg`Bend of the top side` },
  { move: msg`Side right`, bend: msg`Bend of the right side` },
  { move: msg`Side bottom`, bend: msg`Bend of the bottom side` },
  { move: msg`Side left`, bend: msg`Bend of the left side` },
] as const;
/** The corner tick opens towards the page's inside. */
const TICKS = ['M22 40V22H40', 'M22 40V22H4', 'M22 4V22H4', 'M22 4V22H40'] as const;
const BAR = 'M10 22H34';
const BOW = 'M10 26Q22 14 34 26';

/** A line of the grid as a path. */
const lineThrough = (line: readonly Point[]): string =>
  `M${line.map(({ x, y }) => `${x.toFixed(1)} ${y.toFixed(1)}`).join('L')}`;

/** What laid the page flat beside its edges. */
const straightenedBy = (lines: number): string =>
  plural(lines, { one: 'Straightened by # line on the page.', other: 'Straightened by # lines on the page.' });

/** The photo with the page's outline on it; corners and sides to drag or to nudge with the arrow keys, sides to bend. */
export function EdgesEditor({
  page,
  editing,
  zoom,
  wide,
}: {
  readonly page: Page;
  readonly editing: PageEditing;
  readonly zoom: Zoom;
  readonly wide: boolean;
}) {
  const { edges, bending, snapping, targets, flat, lookingFlat, grid } = editing;
  const photo = usePagePicture(page, null, 1400);
  const [held, setHeld] = useState<{ readonly kind: 'corner' | 'side'; readonly index: number } | null>(null);
  useUndoKeys(edges.undo, edges.redo);
  const { measure, width, height, held: offset } = useZoomedPage(page, zoom, MARGIN_PX);
  const place = useZoomGestures(zoom, offset);
  const ground = useGroundDrag(zoom, offset);
  const scale = width / page.width;
  /** With the photo zoomed, what has the focus stands in the middle. */
  const centre = (at: Point): void => {
    if (zoom.factor > 1) zoom.moveTo({ x: width / 2 - at.x * scale, y: height / 2 - at.y * scale });
  };
  const { corners, bends } = edges;
  const ring = ringOf(corners, bends, CURVE_STEPS).map((p) => scalePoint(p, scale));
  const outline = `M${ring.map((p) => `${p.x} ${p.y}`).join('L')}Z`;
  const middleOf = (s: number): Point => pointOnBentSide(corners[s]!, corners[(s + 1) % 4]!, bends[s]!, 0.5);
  const snap = (free: boolean) => (snapping && !free ? { targets, reachPx: SNAP_REACH_PX / scale } : null);
  // a handle that loses the focus to another must not take the loupe from it
  const letGo = (kind: 'corner' | 'side', index: number): void =>
    setHeld((now) => (now?.kind === kind && now.index === index ? null : now));
  const heldAt = held === null ? null : held.kind === 'corner' ? corners[held.index]! : middleOf(held.index);
  return (
    // what is dragged over must not be selected: the next drag would then carry the selection away
    <View className="flex-1 select-none bg-night">
      <View
        ref={place}
        className="flex-1 items-center justify-center overflow-hidden"
        onLayout={measure}
        style={{ ...({ touchAction: 'none' } as object) }}
      >
        {photo.state === 'failed' ? (
          <Text tone="chalk" className="p-6">
            {photo.problem}
          </Text>
        ) : null}
        {scale > 0 ? (
          <View
            {...ground}
            style={{ width, height, flexShrink: 0, transform: [{ translateX: offset.x }, { translateY: offset.y }] }}
            aria-label={t`Photo with the page’s edges`}
            role="group"
          >
            {photo.state === 'ready' ? (
              <Image
                source={{ uri: photo.picture.url }}
                accessibilityLabel={t`The photo as it was taken`}
                style={{ width, height }}
              />
            ) : (
              <Text tone="chalk">{t`Working …`}</Text>
            )}
            <View className="pointer-events-none absolute inset-0" aria-hidden>
              <Svg width={width} height={height}>
                <Path
                  d={`M0 0H${width}V${height}H0Z ${outline}`}
                  fillRule="evenodd"
                  fill="rgb(22 19 31)"
                  fillOpacity={0.55}
                />
                {grid === null ? null : (
                  <Path
                    testID="page-grid"
                    d={grid.map(lineThrough).join('')}
                    transform={`scale(${scale})`}
                    fill="none"
                    stroke="rgb(180 30 110)"
                    strokeOpacity={0.75}
                    strokeWidth={1 / scale}
                  />
                )}
                <Path d={outline} fill="none" stroke="rgb(245 241 232)" strokeWidth={1.25} />
              </Svg>
            </View>
            {corners.map((corner, index) => (
              <EdgeHandle
                key={`corner ${index}`}
                label={t(CORNERS[index]!)}
                valueText={t`${{ x: Math.round(corner.x) }} across, ${{ y: Math.round(corner.y) }} down`}
                valueNow={Math.round(corner.x)}
                sign={TICKS[index]!}
                at={scalePoint(corner, scale)}
                scale={scale}
                onBegin={() => {
                  edges.begin();
                  setHeld({ kind: 'corner', index });
                }}
                onDrag={(by, free) => edges.moveCorner(index, by, snap(free))}
                onEnd={() => letGo('corner', index)}
                onFocus={() => centre(corner)}
              />
            ))}
            {SIDES.map((side, s) => {
              const a = corners[s]!;
              const b = corners[(s + 1) % 4]!;
              const length = Math.hypot(b.x - a.x, b.y - a.y) || 1;
              const outwards = (by: Point): number => (by.x * (b.y - a.y) - by.y * (b.x - a.x)) / length;
              const middle = middleOf(s);
              const chord = lerpPoint(a, b, 0.5);
              return (
                <EdgeHandle
                  key={`side ${s}`}
                  label={bending ? t(side.bend) : t(side.move)}
                  valueText={
                    bending
                      ? t`bent by ${{ pixels: Math.round(Math.hypot(middle.x - chord.x, middle.y - chord.y)) }} pixels`
                      : t`${{ x: Math.round(middle.x) }} across, ${{ y: Math.round(middle.y) }} down`
                  }
                  valueNow={Math.round(bending ? bendAt(bends[s]!, 0.5) * length : s % 2 === 0 ? middle.y : middle.x)}
                  sign={bending ? BOW : BAR}
                  turn={(Math.atan2(b.y - a.y, b.x - a.x) * 180) / Math.PI}
                  at={scalePoint(middle, scale)}
                  scale={scale}
                  onBegin={() => {
                    edges.begin();
                    setHeld({ kind: 'side', index: s });
                  }}
                  onDrag={(by, free) =>
                    bending ? edges.bendSide(s, outwards(by) / length) : edges.moveSide(s, outwards(by), snap(free))
                  }
                  onEnd={() => letGo('side', s)}
                  onFocus={() => centre(middle)}
                />
              );
            })}
          </View>
        ) : null}
        {/* the loupe keeps to the corners of the whole place, clear of the finger even where the photo is narrow */}
        {heldAt !== null && photo.state === 'ready' ? (
          <Loupe photo={photo.picture} at={scalePoint(heldAt, scale)} width={width} height={height} outline={outline} />
        ) : null}
        {lookingFlat && flat !== null ? (
          <View
            className="pointer-events-none absolute inset-0 items-center justify-center bg-night p-3"
            testID="flat-result"
          >
            <BitmapCanvas bitmap={flat} label={t`The page laid flat by these edges`} style={{ objectFit: 'contain' }} />
          </View>
        ) : null}
      </View>
      <View className="min-h-[28px] justify-center bg-paper px-4 py-1 [@media(max-height:600px)]:pb-0">
        {edges.problem !== null ? (
          <StatusMessage status="warning" announce>
            {t(EDGES_WORDS[edges.problem])}
          </StatusMessage>
        ) : (
          <Text variant="soft">
            {[
              ...(edges.lines.length === 0 ? [] : [straightenedBy(edges.lines.length)]),
              // a phone has room for one line: how to drag is seen there by the handles
              ...(wide || bending || edges.lines.length === 0
                ? [
                    bending
                      ? t`Drag a side’s middle until the line follows the paper.`
                      : t`Drag corners and sides onto the paper’s edge.`,
                  ]
                : []),
              ...(wide ? [t`Arrow keys move them by a pixel.`] : []),
            ].join(' ')}
          </Text>
        )}
      </View>
    </View>
  );
}

import { useState } from 'react';
import { Image, View, type LayoutChangeEvent } from 'react-native';
import Svg, { Path, Polygon } from 'react-native-svg';
import { scalePoint } from '../../core/geometry/point';
import { mapQuad, type Quad } from '../../core/geometry/quad';
import type { Page } from '../../core/handIn/handIn';
import { Flag } from '../components/Flag';
import { Words } from '../components/Words';
import { usePagePicture } from '../pictures/usePagePicture';
import { CornerHandle } from './CornerHandle';
import type { EdgesDraft } from './useEdgesDraft';

/** Room around the photo so that a corner at its border can still be taken hold of. */
const MARGIN_PX = 26;

/** The photo with the page's outline on it, corners to drag or to nudge with the arrow keys. */
export function EdgesEditor({ page, draft }: { readonly page: Page; readonly draft: EdgesDraft }) {
  const photo = usePagePicture(page, null, 1400);
  const [box, setBox] = useState({ width: 0, height: 0 });
  const measure = ({ nativeEvent: { layout } }: LayoutChangeEvent): void => setBox({ width: layout.width, height: layout.height });
  const scale = Math.max(0, Math.min((box.width - 2 * MARGIN_PX) / page.width, (box.height - 2 * MARGIN_PX) / page.height));
  const width = page.width * scale;
  const height = page.height * scale;
  const onScreen: Quad = mapQuad(draft.corners, (p) => scalePoint(p, scale));
  return (
    <View className="flex-1 bg-night">
      <View className="flex-1 items-center justify-center overflow-hidden" onLayout={measure}>
        {photo.state === 'failed' ? <Words tone="chalk" className="p-6">{photo.problem}</Words> : null}
        {scale > 0 ? (
          <View style={{ width, height }} aria-label="Photo with the page’s edges" role="group">
            {photo.state === 'ready' ? <Image source={{ uri: photo.picture.url }} accessibilityLabel="The photo as it was taken" style={{ width, height }} /> : <Words tone="chalk">Working …</Words>}
            <View className="pointer-events-none absolute inset-0" aria-hidden>
              <Svg width={width} height={height}>
                <Path d={`M0 0H${width}V${height}H0Z M${onScreen.map((p) => `${p.x} ${p.y}`).join('L')}Z`} fillRule="evenodd" fill="rgb(22 19 31)" fillOpacity={0.55} />
                <Polygon points={onScreen.map((p) => `${p.x},${p.y}`).join(' ')} fill="none" stroke="rgb(245 241 232)" strokeWidth={1.25} />
              </Svg>
            </View>
            {onScreen.map((at, index) => (
              <CornerHandle key={index} index={index} at={at} scale={scale} corner={draft.corners[index]!} onMove={(to) => draft.moveCorner(index, to)} />
            ))}
          </View>
        ) : null}
      </View>
      <View className="min-h-[28px] justify-center bg-paper px-4 pt-1">
        {draft.problem === null ? <Words as="soft">Drag each corner onto the paper’s corner. Arrow keys move it by a pixel.</Words> : <Flag kind="look" live>{draft.problem}</Flag>}
      </View>
    </View>
  );
}

import { t } from '@lingui/core/macro';
import { useState } from 'react';
import { View, type LayoutChangeEvent } from 'react-native';
import Svg, { Path } from 'react-native-svg';
import type { Point } from '../../../../core/imaging/geometry/point';
import { Button } from '../../../ui/Button';
import { Dialog } from '../../../ui/Dialog';
import { Text } from '../../../ui/Text';
import { useStrokeGesture } from '../../../zoom/useStrokeGesture';
import { useZoom } from '../../../zoom/useZoom';
import { strokePath } from '../../../page-picture/PageMarks';
import { keepSignature, SIGNATURE_ASPECT } from './signatureStore';

const MIDDLE: Point = { x: 0, y: 0 };
const PEN_WIDTH = 0.012;

interface SignaturePadProps {
  readonly strokes: readonly (readonly Point[])[];
  /** Told the strokes after each; null where it is done with. */
  readonly onDraw: (strokes: readonly (readonly Point[])[] | null) => void;
}

/** Where a signature is drawn once; it is kept on this device. */
export function SignaturePad({ strokes, onDraw }: SignaturePadProps) {
  const [width, setWidth] = useState(0);
  const { sheet, handlers, stroke } = useStrokeGesture(useZoom(), MIDDLE, (places) => onDraw([...strokes, places]));
  const height = width / SIGNATURE_ASPECT;
  const close = (): void => onDraw(null);
  const keep = (): void => {
    keepSignature(strokes);
    close();
  };
  return (
    <Dialog label={t`Draw your signature`} onClose={close}>
      <Text variant="title">{t`Your signature`}</Text>
      <Text variant="soft">{t`Draw it once. It is kept on this device and can be placed on any page.`}</Text>
      <View
        ref={sheet}
        {...handlers}
        testID="signature-pad"
        onLayout={({ nativeEvent }: LayoutChangeEvent) => setWidth(nativeEvent.layout.width)}
        className="w-full select-none border border-rule bg-sheet"
        style={{ aspectRatio: SIGNATURE_ASPECT, ...({ touchAction: 'none', cursor: 'crosshair' } as object) }}
      >
        <Svg width={width} height={height}>
          {[...strokes, stroke].map((points, i) =>
            points.length === 0 ? null : (
              <Path
                key={i}
                d={strokePath(
                  { kind: 'signature', id: '', colour: '#1d2733', width: PEN_WIDTH, points },
                  width,
                  height,
                )}
                fill="rgb(var(--ink))"
              />
            ),
          )}
        </Svg>
      </View>
      <View className="flex-row gap-2">
        <Button label={t`Start over`} disabled={strokes.length === 0} onPress={() => onDraw([])} />
        <View className="flex-1">
          <Button label={t`Keep it`} pressed disabled={strokes.length === 0} onPress={keep} />
        </View>
        <Button label={t`Cancel`} onPress={close} />
      </View>
    </Dialog>
  );
}

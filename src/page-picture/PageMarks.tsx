import { createContext, useContext } from 'react';
import { View } from 'react-native';
import Svg, { G, Path, Text as SvgText } from 'react-native-svg';
import { HIGHLIGHTER_OPACITY, NOTE_LINE, strokeOutline, type Mark, type StrokeMark } from '../../core/work/marks/marks';

/** One switch for a hand-in: marks are shown, here and in the file, or not. */
export const MarksShown = createContext(true);

export function strokePath(mark: StrokeMark, width: number, height: number): string {
  const [first, ...rest] = strokeOutline(mark, width, height);
  return first === undefined
    ? ''
    : `M${first[0].toFixed(1)} ${first[1].toFixed(1)} ${rest.map(([x, y]) => `L${x.toFixed(1)} ${y.toFixed(1)}`).join(' ')} Z`;
}

/** What is written on top of a page, as the file will have it. */
export function PageMarks({
  marks,
  width,
  height,
}: {
  readonly marks: readonly Mark[];
  readonly width: number;
  readonly height: number;
}) {
  const shown = useContext(MarksShown);
  if (!shown || marks.length === 0 || width <= 0) return null;
  const size = NOTE_LINE * Math.max(width, height);
  return (
    <View className="pointer-events-none absolute inset-0" aria-hidden testID="page-marks">
      <Svg width={width} height={height}>
        {marks.map((mark) =>
          mark.kind === 'note' ? (
            <G key={mark.id}>
              {mark.text.split('\n').map((line, k) => (
                <SvgText
                  key={k}
                  x={mark.at.x * width}
                  y={mark.at.y * height + size * (1 + 1.25 * k)}
                  fill={mark.colour}
                  fontSize={size}
                  fontFamily="AtkinsonHyperlegibleNext_400Regular"
                >
                  {line}
                </SvgText>
              ))}
            </G>
          ) : (
            <Path
              key={mark.id}
              d={strokePath(mark, width, height)}
              fill={mark.colour}
              fillOpacity={mark.kind === 'highlighter' ? HIGHLIGHTER_OPACITY : 1}
            />
          ),
        )}
      </Svg>
    </View>
  );
}

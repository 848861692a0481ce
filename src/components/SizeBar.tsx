import { View } from 'react-native';
import Svg, { Rect } from 'react-native-svg';
import { readableBytes } from '../../core/readableBytes';
import { Words } from './Words';

const WIDTH = 600;
const GAP = 3;

/** What each page costs, as one bar of page-sized pieces. */
export function SizeBar({ pageBytes }: { readonly pageBytes: readonly number[] }) {
  const total = pageBytes.reduce((sum, bytes) => sum + bytes, 0) || 1;
  const largest = pageBytes.indexOf(Math.max(...pageBytes));
  const room = WIDTH - GAP * (pageBytes.length - 1);
  const starts = pageBytes.map((_, i) =>
    pageBytes.slice(0, i).reduce((sum, bytes) => sum + (bytes / total) * room + GAP, 0),
  );
  return (
    <View className="gap-1">
      <View
        role="img"
        aria-label={`Size by page: ${pageBytes.map((bytes, i) => `page ${i + 1} ${readableBytes(bytes)}`).join(', ')}`}
      >
        <Svg width="100%" height={18} viewBox={`0 0 ${WIDTH} 18`} preserveAspectRatio="none">
          {pageBytes.map((bytes, i) => (
            <Rect
              key={i}
              x={starts[i]}
              y={0}
              width={Math.max(1, (bytes / total) * room)}
              height={18}
              fill={i === largest ? 'rgb(var(--beet))' : 'rgb(var(--ink-soft))'}
            />
          ))}
        </Svg>
      </View>
      {pageBytes.length > 1 ? (
        <Words
          as="soft"
          className="tabular-nums"
        >{`Largest: page ${largest + 1}, ${readableBytes(pageBytes[largest]!)}`}</Words>
      ) : null}
    </View>
  );
}

import { t } from '@lingui/core/macro';
import { View } from 'react-native';
import Svg, { Rect } from 'react-native-svg';
import { readableBytes } from '../../i18n/formats';
import { Text } from '../../ui/Text';

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
        aria-label={t`Size by page: ${{ sizes: pageBytes.map((bytes, i) => t`page ${{ page: i + 1 }} ${{ size: readableBytes(bytes) }}`).join(', ') }}`}
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
        <Text
          variant="soft"
          className="tabular-nums"
        >{t`Largest: page ${{ largest: largest + 1 }}, ${{ size: readableBytes(pageBytes[largest]!) }}`}</Text>
      ) : null}
    </View>
  );
}

import { t } from '@lingui/core/macro';
import Minus from 'lucide-react-native/icons/minus';
import Plus from 'lucide-react-native/icons/plus';
import { View } from 'react-native';
import { Text } from '../../ui/Text';
import { Button } from '../../ui/Button';

interface ZoomBarProps {
  readonly zoom: number;
  readonly range: { readonly min: number; readonly max: number; readonly step: number };
  readonly onZoom: (zoom: number) => void;
}

/** Each press is a quarter more or less. */
const FACTOR = 1.25;

export function ZoomBar({ zoom, range: { min, max }, onZoom }: ZoomBarProps) {
  return (
    <View role="group" aria-label={t`Zoom`} className="flex-row items-center justify-center gap-1">
      <Button
        variant="onDark"
        label=""
        accessibilityLabel={t`Zoom out`}
        icon={Minus}
        onPress={() => onZoom(Math.max(min, zoom / FACTOR))}
      />
      <Text variant="small" tone="chalk" className="tabular-nums">{`${(zoom / min).toFixed(1)} ×`}</Text>
      <Button
        variant="onDark"
        label=""
        accessibilityLabel={t`Zoom in`}
        icon={Plus}
        onPress={() => onZoom(Math.min(max, zoom * FACTOR))}
      />
    </View>
  );
}

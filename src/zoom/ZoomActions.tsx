import { t } from '@lingui/core/macro';
import Hand from 'lucide-react-native/icons/hand';
import ZoomIn from 'lucide-react-native/icons/zoom-in';
import ZoomOut from 'lucide-react-native/icons/zoom-out';
import { View } from 'react-native';
import { Button } from '../ui/Button';
import type { Zoom } from './useZoom';

const STEP = 1.6;

/** Zooms the page that is worked on, and switches between working and panning. */
export function ZoomActions({
  zoom,
  insteadOf,
}: {
  readonly zoom: Zoom;
  /** What a drag does while it does not pan; left out where the ground can be dragged beside it. */
  readonly insteadOf?: string;
}) {
  return (
    <View role="toolbar" aria-label={t`View`} className="flex-row flex-wrap">
      <Button variant="toolbar" icon={ZoomIn} label={t`Zoom in`} onPress={() => zoom.by(STEP)} />
      <Button
        variant="toolbar"
        icon={ZoomOut}
        label={t`Zoom out`}
        disabled={zoom.factor === 1}
        onPress={() => zoom.by(1 / STEP)}
      />
      {insteadOf === undefined ? null : (
        <Button
          variant="toolbar"
          icon={Hand}
          label={t`Pan`}
          accessibilityLabel={t`Pan: move the page instead of ${insteadOf}`}
          pressed={zoom.moving}
          disabled={zoom.factor === 1}
          onPress={zoom.toggleMoving}
        />
      )}
    </View>
  );
}

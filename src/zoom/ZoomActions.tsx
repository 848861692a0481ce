import { t } from '@lingui/core/macro';
import Hand from 'lucide-react-native/icons/hand';
import ZoomIn from 'lucide-react-native/icons/zoom-in';
import ZoomOut from 'lucide-react-native/icons/zoom-out';
import { View } from 'react-native';
import { Action } from '../components/Action';
import type { Zoom } from './useZoom';

const STEP = 1.6;

/** Zooms the page that is worked on, and switches between working and panning. */
export function ZoomActions({
  zoom,
  insteadOf,
}: {
  readonly zoom: Zoom;
  /** What a drag does while it does not pan. */
  readonly insteadOf: string;
}) {
  return (
    <View role="toolbar" aria-label={t`View`} className="flex-row">
      <Action kind="verb" icon={ZoomIn} label={t`Zoom in`} onPress={() => zoom.by(STEP)} />
      <Action
        kind="verb"
        icon={ZoomOut}
        label={t`Zoom out`}
        disabled={zoom.factor === 1}
        onPress={() => zoom.by(1 / STEP)}
      />
      <Action
        kind="verb"
        icon={Hand}
        label={t`Pan`}
        spoken={t`Pan: move the page instead of ${insteadOf}`}
        on={zoom.moving}
        disabled={zoom.factor === 1}
        onPress={zoom.toggleMoving}
      />
    </View>
  );
}

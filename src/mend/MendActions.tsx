import Hand from 'lucide-react-native/icons/hand';
import Redo2 from 'lucide-react-native/icons/redo-2';
import Trash from 'lucide-react-native/icons/trash';
import Undo2 from 'lucide-react-native/icons/undo-2';
import X from 'lucide-react-native/icons/x';
import ZoomIn from 'lucide-react-native/icons/zoom-in';
import ZoomOut from 'lucide-react-native/icons/zoom-out';
import { View } from 'react-native';
import type { Page } from '../../core/handIn/handIn';
import type { Blemish } from '../../core/mend/findBlemishes';
import { Action } from '../components/Action';
import { RangeSlider } from '../components/RangeSlider';
import { Words } from '../components/Words';
import { usePageLook } from '../light/usePageLook';
import type { MendDraft } from './useMendDraft';
import type { Zoom } from '../zoom/useZoom';

/** The verbs of the mending tool, and what it found by itself. */
export function MendActions({
  page,
  draft,
  zoom,
  wide,
}: {
  readonly page: Page;
  readonly draft: MendDraft;
  readonly zoom: Zoom;
  readonly wide: boolean;
}) {
  const look = usePageLook(page, true);
  const offers = (look?.blemishes ?? []).filter((blemish) => !isMended(blemish, draft));
  const thumbs = offers.filter(({ kind }) => kind === 'thumb');
  const holes = offers.filter(({ kind }) => kind === 'hole');
  const take = (blemishes: readonly Blemish[]): void => draft.add(blemishes.flatMap(({ mends }) => mends));
  return (
    <View className={wide ? 'gap-2 p-3' : 'bg-paper'}>
      {thumbs.length > 0 || holes.length > 0 ? (
        <View role="group" aria-label="Found on this page" className="flex-row flex-wrap gap-2 px-3">
          {thumbs.map((thumb) => (
            <Action
              key={`${thumb.at.x} ${thumb.at.y}`}
              label={`Take away the finger ${placeWords(thumb)}`}
              onPress={() => take([thumb])}
            />
          ))}
          {holes.length > 0 ? <Action label={`Take away ${holes.length} holes`} onPress={() => take(holes)} /> : null}
        </View>
      ) : null}
      <View className="flex-row items-center gap-3 px-4">
        <Words as="soft" aria-hidden>
          Brush
        </Words>
        <View className="flex-1">
          <RangeSlider
            label="Size of the brush"
            value={draft.brush}
            least={0.004}
            most={0.08}
            step={0.002}
            valueText={`${Math.round(draft.brush * 2000) / 10} % of the page’s width`}
            onChange={draft.setBrush}
          />
        </View>
      </View>
      <View role="toolbar" aria-label="Steps" className="flex-row">
        <Action
          kind="verb"
          icon={Undo2}
          label="Undo"
          spoken="Undo the last stroke"
          disabled={!draft.canUndo}
          onPress={draft.undo}
        />
        <Action
          kind="verb"
          icon={Redo2}
          label="Redo"
          spoken="Redo the stroke"
          disabled={!draft.canRedo}
          onPress={draft.redo}
        />
        <Action
          kind="verb"
          icon={Trash}
          label="Clear"
          spoken="Clear all mends on this page"
          disabled={draft.recipe.mends.length === 0}
          onPress={draft.clear}
        />
        <Action kind="verb" icon={X} label="Cancel" spoken="Cancel: leave the page as it was" onPress={draft.leave} />
      </View>
      <View role="toolbar" aria-label="View" className="flex-row">
        <Action kind="verb" icon={ZoomIn} label="Zoom in" onPress={() => zoom.by(1.6)} />
        <Action
          kind="verb"
          icon={ZoomOut}
          label="Zoom out"
          disabled={zoom.factor === 1}
          onPress={() => zoom.by(1 / 1.6)}
        />
        <Action
          kind="verb"
          icon={Hand}
          label="Pan"
          spoken="Pan: move the page instead of painting"
          on={zoom.moving}
          disabled={zoom.factor === 1}
          onPress={zoom.toggleMoving}
        />
      </View>
    </View>
  );
}

/** Its strokes are among those of the draft already. */
const isMended = ({ mends }: Blemish, { recipe }: MendDraft): boolean =>
  mends.every((mend) => recipe.mends.some((own) => JSON.stringify(own) === JSON.stringify(mend)));

function placeWords({ at: { x, y } }: Blemish): string {
  const sides = [
    { away: x, words: 'on the left' },
    { away: 1 - x, words: 'on the right' },
    { away: y, words: 'at the top' },
    { away: 1 - y, words: 'at the foot' },
  ];
  return sides.sort((a, b) => a.away - b.away)[0]!.words;
}

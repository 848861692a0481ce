import { t } from '@lingui/core/macro';
import { View } from 'react-native';
import type { Page } from '../../../../core/work/hand-in/handIn';
import type { Blemish } from '../../../../core/imaging/mend/findBlemishes';
import { Button } from '../../../ui/Button';
import { DraftActions } from '../DraftActions';
import { Slider } from '../../../ui/Slider';
import { Text } from '../../../ui/Text';
import { usePageLook } from '../light/usePageLook';
import type { MendDraft } from './useMendDraft';
import type { Zoom } from '../../../zoom/useZoom';
import { ZoomActions } from '../../../zoom/ZoomActions';

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
        <View role="group" aria-label={t`Found on this page`} className="flex-row flex-wrap gap-2 px-3">
          {thumbs.map((thumb) => (
            <Button key={`${thumb.at.x} ${thumb.at.y}`} label={takeAwayFinger(thumb)} onPress={() => take([thumb])} />
          ))}
          {holes.length > 0 ? (
            <Button label={t`Take away ${{ count: holes.length }} holes`} onPress={() => take(holes)} />
          ) : null}
        </View>
      ) : null}
      <View className="flex-row items-center gap-3 px-4">
        <Text variant="soft" aria-hidden>
          {t`Brush`}
        </Text>
        <View className="flex-1">
          <Slider
            label={t`Size of the brush`}
            value={draft.brush}
            min={0.004}
            max={0.08}
            step={0.002}
            valueText={t`${{ percent: Math.round(draft.brush * 2000) / 10 }} % of the page’s width`}
            onChange={draft.setBrush}
          />
        </View>
      </View>
      <DraftActions draft={draft} of="mends" isEmpty={draft.recipe.mends.length === 0} />
      <ZoomActions zoom={zoom} insteadOf={t`painting`} />
    </View>
  );
}

/** Its strokes are among those of the draft already. */
const isMended = ({ mends }: Blemish, { recipe }: MendDraft): boolean =>
  mends.every((mend) => recipe.mends.some((own) => JSON.stringify(own) === JSON.stringify(mend)));

/** Names the finger by the side of the page it comes from. */
function takeAwayFinger({ at: { x, y } }: Blemish): string {
  const sides = [
    { away: x, words: t`Take away the finger on the left` },
    { away: 1 - x, words: t`Take away the finger on the right` },
    { away: y, words: t`Take away the finger at the top` },
    { away: 1 - y, words: t`Take away the finger at the foot` },
  ];
  return sides.sort((a, b) => a.away - b.away)[0]!.words;
}

import { t } from '@lingui/core/macro';
import { useState, type CSSProperties } from 'react';
import { Image, Pressable, View } from 'react-native';
import { PLAIN_LIGHT } from '../../../../core/imaging/finish/finishSettings';
import type { Page } from '../../../../core/work/hand-in/handIn';
import { PageImage } from '../../../page-picture/PageImage';
import { CropMarks } from '../../../ui/CropMarks';
import { Slider } from '../../../ui/Slider';
import { useLatestPicture } from '../../../page-picture/useLatestPicture';
import { usePagePicture } from '../../../page-picture/usePagePicture';
import type { LightDraft } from './useLightDraft';
import { usePageLook } from './usePageLook';

interface LitPaperProps {
  readonly page: Page;
  readonly longSidePx: number;
  readonly label: string;
  readonly light: LightDraft;
}

/** While a slider moves, pictures this large keep up with it. */
const MOVING_LONG_SIDE_PX = 800;

/** The page with what is being tried on its light; pressed and held, or asked for, it shows the photo as it was shot. */
export function LitPaper({ page, longSidePx, label, light }: LitPaperProps) {
  const moving = useLatestPicture(page, light.recipe, MOVING_LONG_SIDE_PX, light.moving);
  const [held, setHeld] = useState(false);
  const view = held ? 'before' : light.view;
  return (
    <PageImage
      page={page}
      longSidePx={longSidePx}
      label={label}
      instead={moving}
      trying={light.moving}
      over={(width) => (
        <>
          {/* only a gesture: the button “Photo” does the same */}
          <Pressable
            aria-hidden
            tabIndex={-1}
            className="absolute inset-0 select-none"
            onLongPress={() => setHeld(true)}
            delayLongPress={250}
            onPressOut={() => setHeld(false)}
          />
          <GlareMark page={page} />
          {view === 'after' ? null : (
            <Before page={page} longSidePx={longSidePx} width={width} share={view === 'before' ? 1 : light.line} />
          )}
          {view === 'both' ? <ComparingLine light={light} /> : null}
        </>
      )}
    />
  );
}

/** Where a reflection lies, so that what is gone is looked for there and nowhere else. */
function GlareMark({ page }: { readonly page: Page }) {
  const glare = usePageLook(page, page.findings?.includes('glare') ?? false)?.glare ?? null;
  if (glare === null) return null;
  const percent = (share: number): `${number}%` => `${share * 100}%`;
  return (
    <View
      role="img"
      aria-label={t`The reflection: what is written under it may be lost`}
      className="pointer-events-none absolute"
      style={{
        left: percent(glare.left),
        top: percent(glare.top),
        width: percent(glare.width),
        height: percent(glare.height),
      }}
    >
      <CropMarks />
    </View>
  );
}

/** The page as it was shot, over this share of the paper from its left. */
function Before({
  page,
  longSidePx,
  width,
  share,
}: {
  readonly page: Page;
  readonly longSidePx: number;
  readonly width: number;
  readonly share: number;
}) {
  const shown = usePagePicture(page, { ...page.recipe, finish: 'asshot', light: PLAIN_LIGHT, mends: [] }, longSidePx);
  if (shown.state !== 'ready') return null;
  return (
    <View
      className="pointer-events-none absolute bottom-0 left-0 top-0 overflow-hidden"
      style={{ width: width * share }}
    >
      <Image
        source={{ uri: shown.picture.url }}
        accessibilityLabel={t`As it was shot`}
        resizeMode="stretch"
        className="h-full"
        style={{ width }}
      />
    </View>
  );
}

const OVER_THE_PAPER: CSSProperties = {
  position: 'absolute',
  inset: 0,
  width: '100%',
  height: '100%',
  margin: 0,
  opacity: 0.001,
  cursor: 'ew-resize',
  touchAction: 'none',
};

/** The line between photo and page; the whole paper takes hold of it. */
function ComparingLine({ light }: { readonly light: LightDraft }) {
  return (
    <>
      <View
        className="pointer-events-none absolute bottom-0 top-0 w-[3px] bg-beet"
        style={{ left: `${light.line * 100}%`, marginLeft: -1.5 }}
      />
      <Slider
        label={t`Line between photo and page`}
        value={light.line}
        min={0}
        max={1}
        step={0.01}
        valueText={t`${{ percent: Math.round(light.line * 100) }} % photo`}
        onChange={light.moveLine}
        style={OVER_THE_PAPER}
      />
    </>
  );
}

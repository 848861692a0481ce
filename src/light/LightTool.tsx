import { t } from '@lingui/core/macro';
import { useState } from 'react';
import { View } from 'react-native';
import { FINISHES, SLIDER_LOWEST, type Slider } from '../../core/finish/light';
import { shownPages, type HandIn, type Page } from '../../core/handIn/handIn';
import { Action } from '../components/Action';
import { RangeSlider } from '../components/RangeSlider';
import { Words } from '../components/Words';
import { FINISH_WORDS, SLIDER_SHORT, SLIDER_WORDS, SLIDERS_OF, SUGGESTION_WORDS } from './finishWords';
import { PageChoice } from './PageChoice';
import type { LightDraft } from './useLightDraft';
import { usePageLook } from './usePageLook';

interface LightToolProps {
  readonly handIn: HandIn;
  readonly page: Page;
  readonly draft: LightDraft;
  /** All sliders at once, where there is room. */
  readonly unfolded: boolean;
}

/** The light of a page: its finish, how that is set, how it compares with the photo, and on which pages it is used. */
export function LightTool({ handIn, page, draft, unfolded }: LightToolProps) {
  const { finish, kind } = page.recipe;
  const look = usePageLook(page, true);
  const suggested = kind === 'board' ? 'board' : look?.suggested;
  const [chosen, setSlider] = useState<Slider>('brightness');
  const sliders = SLIDERS_OF[finish];
  const slider = sliders.includes(chosen) ? chosen : sliders[0]!;
  const [choosing, setChoosing] = useState(false);
  const more = shownPages(handIn).length > 1;
  return (
    <View className={`gap-1 border-t border-rule-faint pt-2 ${unfolded ? 'px-3' : 'bg-paper'}`}>
      <View role="group" aria-label={t`Finish`} className={unfolded ? 'flex-row flex-wrap gap-2' : 'flex-row px-1'}>
        {FINISHES.map((each) => (
          <View key={each} className={unfolded ? '' : 'flex-1'}>
            <Action
              kind={unfolded ? 'plain' : 'verb'}
              label={t(FINISH_WORDS[each].name)}
              spoken={`${t(FINISH_WORDS[each].name)}: ${t(FINISH_WORDS[each].says)}${each === finish ? t`, chosen` : ''}`}
              on={each === finish}
              onPress={() => draft.chooseFinish(each)}
            />
          </View>
        ))}
      </View>
      {choosing ? (
        <PageChoice
          handIn={handIn}
          page={page}
          onDone={(ids) => {
            if (ids.length > 0) draft.useOn(ids);
            setChoosing(false);
          }}
        />
      ) : (
        <>
          {suggested !== undefined && suggested !== null && suggested !== finish ? (
            <Action
              kind="quiet"
              label={t`Suggested: ${{ finish: t(FINISH_WORDS[suggested].name) }}, ${{ reason: t(SUGGESTION_WORDS[suggested]) }}`}
              onPress={() => draft.chooseFinish(suggested)}
            />
          ) : (
            <Words
              as="soft"
              className={unfolded ? '' : 'px-4'}
            >{`${t(FINISH_WORDS[finish].name)}: ${t(FINISH_WORDS[finish].says)}`}</Words>
          )}
          {unfolded ? (
            sliders.map((each) => <LabelledSlider key={each} slider={each} draft={draft} labelled />)
          ) : (
            <>
              {sliders.length === 1 ? null : (
                <View role="group" aria-label={t`What to set`} className="flex-row px-1">
                  {sliders.map((each) => (
                    <View key={each} className="flex-1">
                      <Action
                        kind="verb"
                        label={t(SLIDER_SHORT[each])}
                        spoken={t(SLIDER_WORDS[each])}
                        on={each === slider}
                        onPress={() => setSlider(each)}
                      />
                    </View>
                  ))}
                </View>
              )}
              <View className="px-4">
                <LabelledSlider slider={slider} draft={draft} labelled={sliders.length === 1} />
              </View>
            </>
          )}
          <View role="group" aria-label={t`Compare`} className="flex-row flex-wrap px-1">
            <Action
              kind="quiet"
              label={t`Photo`}
              spoken={t`Photo as it was shot`}
              on={draft.view === 'before'}
              onPress={() => draft.setView(draft.view === 'before' ? 'after' : 'before')}
            />
            <Action
              kind="quiet"
              label={t`Compare`}
              spoken={t`Compare photo and page, with a line to move`}
              on={draft.view === 'both'}
              onPress={() => draft.setView(draft.view === 'both' ? 'after' : 'both')}
            />
            <Action
              kind="quiet"
              label={t`Reset`}
              spoken={t`Reset the light`}
              disabled={draft.reset === null}
              onPress={() => draft.reset?.()}
            />
            {finish === 'pencil' ? (
              <Action
                kind="quiet"
                label={t`Fade rules`}
                spoken={t`Fade rules: the paper’s lines and squares`}
                on={draft.recipe.light.fadeRules}
                onPress={() => draft.change({ fadeRules: !draft.recipe.light.fadeRules })}
              />
            ) : null}
            {finish === 'board' ? (
              <Action
                kind="quiet"
                label={t`Invert`}
                spoken={t`Invert: a dark board becomes dark writing on white`}
                on={draft.recipe.light.invert}
                onPress={() => draft.change({ invert: !draft.recipe.light.invert })}
              />
            ) : null}
            {more ? (
              <Action
                kind="quiet"
                label={unfolded ? t`Use on pages …` : t`Use on …`}
                spoken={unfolded ? t`Use on pages of your choice` : t`Use on other pages`}
                onPress={() => setChoosing(true)}
              />
            ) : null}
          </View>
        </>
      )}
    </View>
  );
}

function LabelledSlider({
  slider,
  draft,
  labelled,
}: {
  readonly slider: Slider;
  readonly draft: LightDraft;
  readonly labelled: boolean;
}) {
  const value = draft.recipe.light[slider];
  const percent = `${Math.round(value * 100)} %`;
  return (
    <View>
      {labelled ? (
        <View aria-hidden className="flex-row justify-between">
          <Words as="small">{t(SLIDER_WORDS[slider])}</Words>
          <Words as="small" className="tabular-nums">
            {percent}
          </Words>
        </View>
      ) : null}
      <RangeSlider
        label={t(SLIDER_WORDS[slider])}
        value={value}
        least={SLIDER_LOWEST[slider]}
        most={1}
        step={0.02}
        valueText={percent}
        onChange={(next) => draft.try({ [slider]: next })}
        onDone={draft.keep}
      />
    </View>
  );
}

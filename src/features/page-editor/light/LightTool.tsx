import { t } from '@lingui/core/macro';
import { useState } from 'react';
import { View } from 'react-native';
import { FINISHES, SLIDER_LOWEST, type Slider as LightSlider } from '../../../../core/imaging/finish/finishSettings';
import { shownPages, type HandIn, type Page } from '../../../../core/work/hand-in/handIn';
import { Button } from '../../../ui/Button';
import { Slider } from '../../../ui/Slider';
import { ChoiceGroup } from '../../../ui/ChoiceGroup';
import { Text } from '../../../ui/Text';
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
  const [chosen, setSlider] = useState<LightSlider>('brightness');
  const sliders = SLIDERS_OF[finish];
  const slider = sliders.includes(chosen) ? chosen : sliders[0]!;
  const [choosing, setChoosing] = useState(false);
  const more = shownPages(handIn).length > 1;
  return (
    <View className={`gap-1 border-t border-rule-faint pt-2 ${unfolded ? 'px-3' : 'bg-paper'}`}>
      <ChoiceGroup
        label={t`Finish`}
        variant={unfolded ? 'outlined' : 'toolbar'}
        choices={FINISHES.map((each) => ({
          value: each,
          label: t(FINISH_WORDS[each].name),
          accessibilityLabel: `${t(FINISH_WORDS[each].name)}: ${t(FINISH_WORDS[each].says)}`,
        }))}
        value={finish}
        onChange={draft.chooseFinish}
        className={unfolded ? 'flex-row flex-wrap gap-2' : 'flex-row flex-wrap px-1'}
      />
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
            <Button
              variant="text"
              label={t`Suggested: ${{ finish: t(FINISH_WORDS[suggested].name) }}, ${{ reason: t(SUGGESTION_WORDS[suggested]) }}`}
              onPress={() => draft.chooseFinish(suggested)}
            />
          ) : (
            <Text
              variant="soft"
              className={unfolded ? '' : 'px-4'}
            >{`${t(FINISH_WORDS[finish].name)}: ${t(FINISH_WORDS[finish].says)}`}</Text>
          )}
          {unfolded ? (
            sliders.map((each) => <LabelledSlider key={each} slider={each} draft={draft} labelled />)
          ) : (
            <>
              {sliders.length === 1 ? null : (
                <ChoiceGroup
                  label={t`What to set`}
                  variant="toolbar"
                  choices={sliders.map((each) => ({
                    value: each,
                    label: t(SLIDER_SHORT[each]),
                    accessibilityLabel: t(SLIDER_WORDS[each]),
                  }))}
                  value={slider}
                  onChange={setSlider}
                  className="flex-row flex-wrap px-1"
                />
              )}
              <View className="px-4">
                <LabelledSlider slider={slider} draft={draft} labelled={sliders.length === 1} />
              </View>
            </>
          )}
          <View role="group" aria-label={t`Compare`} className="flex-row flex-wrap px-1">
            <Button
              variant="text"
              label={t`Photo`}
              accessibilityLabel={t`Photo as it was shot`}
              pressed={draft.view === 'before'}
              onPress={() => draft.setView(draft.view === 'before' ? 'after' : 'before')}
            />
            <Button
              variant="text"
              label={t`Compare`}
              accessibilityLabel={t`Compare photo and page, with a line to move`}
              pressed={draft.view === 'both'}
              onPress={() => draft.setView(draft.view === 'both' ? 'after' : 'both')}
            />
            <Button
              variant="text"
              label={t`Reset`}
              accessibilityLabel={t`Reset the light`}
              disabled={draft.reset === null}
              onPress={() => draft.reset?.()}
            />
            {finish === 'pencil' ? (
              <Button
                variant="text"
                label={t`Fade rules`}
                accessibilityLabel={t`Fade rules: the paper’s lines and squares`}
                pressed={draft.recipe.light.fadeRules}
                onPress={() => draft.change({ fadeRules: !draft.recipe.light.fadeRules })}
              />
            ) : null}
            {finish === 'board' ? (
              <Button
                variant="text"
                label={t`Invert`}
                accessibilityLabel={t`Invert: a dark board becomes dark writing on white`}
                pressed={draft.recipe.light.invert}
                onPress={() => draft.change({ invert: !draft.recipe.light.invert })}
              />
            ) : null}
            {more ? (
              <Button
                variant="text"
                label={unfolded ? t`Use on pages …` : t`Use on …`}
                accessibilityLabel={unfolded ? t`Use on pages of your choice` : t`Use on other pages`}
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
  readonly slider: LightSlider;
  readonly draft: LightDraft;
  readonly labelled: boolean;
}) {
  const value = draft.recipe.light[slider];
  const percent = `${Math.round(value * 100)} %`;
  return (
    <View>
      {labelled ? (
        <View aria-hidden className="flex-row justify-between">
          <Text variant="small">{t(SLIDER_WORDS[slider])}</Text>
          <Text variant="small" className="tabular-nums">
            {percent}
          </Text>
        </View>
      ) : null}
      <Slider
        label={t(SLIDER_WORDS[slider])}
        value={value}
        min={SLIDER_LOWEST[slider]}
        max={1}
        step={0.02}
        valueText={percent}
        onChange={(next) => draft.try({ [slider]: next })}
        onCommit={draft.keep}
      />
    </View>
  );
}

import { t } from '@lingui/core/macro';
import { View } from 'react-native';
import { PAGE_KINDS, type PageKind } from '../../core/recipe/recipe';
import { NightAction } from './NightAction';
import { KIND_WORDS } from './shotWords';

/** What is being shot, in one tap. */
export function KindChooser({
  kind,
  onChoose,
}: {
  readonly kind: PageKind;
  readonly onChoose: (kind: PageKind) => void;
}) {
  return (
    <View role="group" aria-label={t`What is being shot`} className="flex-row justify-center">
      {PAGE_KINDS.map((each) => (
        <NightAction
          key={each}
          label={t(KIND_WORDS[each].name)}
          spoken={`${t(KIND_WORDS[each].name)}: ${t(KIND_WORDS[each].says)}`}
          on={each === kind}
          toggle
          onPress={() => onChoose(each)}
        />
      ))}
    </View>
  );
}

import { t } from '@lingui/core/macro';
import { type PageKind } from '../../../core/work/paper/pageKind';
import { PAGE_KINDS } from '../../../core/work/paper/pageKind';
import { ChoiceGroup } from '../../ui/ChoiceGroup';
import { KIND_WORDS } from './cameraText';

/** What is being shot, in one tap. */
export function KindChooser({
  kind,
  onChoose,
}: {
  readonly kind: PageKind;
  readonly onChoose: (kind: PageKind) => void;
}) {
  return (
    <ChoiceGroup
      label={t`What is being shot`}
      variant="onDark"
      choices={PAGE_KINDS.map((each) => ({
        value: each,
        label: t(KIND_WORDS[each].name),
        accessibilityLabel: `${t(KIND_WORDS[each].name)}: ${t(KIND_WORDS[each].says)}`,
      }))}
      value={kind}
      onChange={onChoose}
      className="flex-row flex-wrap justify-center"
    />
  );
}

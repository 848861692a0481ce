import { plural, t } from '@lingui/core/macro';
import type { StepLabel } from '../data/stepLabel';

/** @param label - what a step did; of a step kept by an earlier version, its words */
export const undoText = (label: StepLabel | string): string => t`Undo ${{ step: describeStep(label) }}`;
export const redoText = (label: StepLabel | string): string => t`Redo ${{ step: describeStep(label) }}`;

function describeStep(label: StepLabel | string): string {
  if (typeof label === 'string') return label;
  const count = label.count ?? 1;
  switch (label.key) {
    case 'assignment':
      return t`the assignment`;
    case 'name':
      return t`the new name`;
    case 'paper':
      return t`the paper`;
    case 'naming':
      return t`the pattern of the name`;
    case 'margin':
      return t`the margin`;
    case 'limit':
      return t`the limit`;
    case 'sameWidth':
      return t`one width for all`;
    case 'searchable':
      return t`words in the file`;
    case 'language':
      return t`the language of the pages`;
    case 'showMarks':
      return t`showing marks`;
    case 'cover':
      return t`the cover sheet`;
    case 'author':
      return t`the author`;
    case 'edges':
      return t`the edges`;
    case 'check':
      return t`the check`;
    case 'rotate':
      return plural(count, { one: 'the turn', other: 'turning # pages' });
    case 'finish':
      return t`the finish`;
    case 'light':
      return plural(count, { one: 'the light', other: 'the light on # pages' });
    case 'lightReset':
      return t`the light’s reset`;
    case 'mending':
      return t`the mending`;
    case 'marks':
      return t`the marks`;
    case 'addPage':
      return t`adding a page`;
    case 'addPages':
      return t`adding pages`;
    case 'retake':
      return t`shooting a page again`;
    case 'fillGlare':
      return t`filling a reflection`;
    case 'deletePages':
      return plural(count, { one: 'deleting a page', other: 'deleting # pages' });
    case 'restorePages':
      return plural(count, { one: 'restoring a page', other: 'restoring # pages' });
    case 'leaveOut':
      return plural(count, { one: 'leaving out a page', other: 'leaving out # pages' });
    case 'include':
      return plural(count, { one: 'including a page', other: 'including # pages' });
    case 'move':
      return plural(count, { one: 'moving a page', other: 'moving # pages' });
    case 'reverse':
      return t`the reverse order`;
    case 'sortByTime':
      return t`the order of shooting`;
    case 'advisedOrder':
      return t`the suggested order`;
    case 'duplicate':
      return plural(count, { one: 'copying a page', other: 'copying # pages' });
    case 'split':
      return t`making two pages`;
    case 'copyTo':
      return plural(count, { one: 'copying a page to another hand-in', other: 'copying # pages to another hand-in' });
    case 'moveTo':
      return plural(count, { one: 'moving a page to another hand-in', other: 'moving # pages to another hand-in' });
  }
}

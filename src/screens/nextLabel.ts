import { plural, t } from '@lingui/core/macro';
import { readableBytes } from '../i18n/formats';
import { FIX_LABELS } from '../features/hand-in/ready/ReadyList';
import type { NextAction } from './nextAction';

/** The words on the bar of the next thing; `fileBytes` is the size of the bound file where there is one. */
export function nextLabel(action: NextAction, fileBytes = 0): string {
  switch (action.does) {
    case 'wait':
      return waitLabel(action);
    case 'shoot':
      return t`Shoot pages`;
    case 'lookAtPages':
      return plural({ count: action.count }, { one: 'Look at # page', other: 'Look at # pages' });
    case 'bind':
      return action.again
        ? t`Bind ${plural({ count: action.count }, { one: '# page', other: '# pages' })} again`
        : plural({ count: action.count }, { one: 'Bind # page', other: 'Bind # pages' });
    case 'openPage':
      return t`Go on to page ${{ at: action.number }}`;
    case 'addPhotos':
      return t`Add photos first`;
    case 'saveEdges':
      return t`Use these edges`;
    case 'finishTool':
      return t`Done`;
    case 'backToCamera':
      return t`Back to the camera`;
    case 'backToReading':
      return t`Back to reading`;
    case 'confirmEdges':
      return t`These edges are right`;
    case 'confirmTurn':
      return t`This is the right way up`;
    case 'download':
      return t`Download the PDF, ${{ size: readableBytes(fileBytes) }}`;
    case 'goToHandIn':
      return t`On to handing in`;
    case 'seeSubmission':
      return t`See what the reader sees`;
    case 'handIn':
      return action.again ? t`Hand it in again` : t`Hand it in`;
    case 'fix':
      return t(FIX_LABELS[action.to]);
    case 'chooseAssignment':
      return t`Choose an assignment`;
    case 'confirmPoints':
      return t`Confirm these points`;
  }
}

function waitLabel(action: Extract<NextAction, { does: 'wait' }>): string {
  switch (action.for) {
    case 'paper':
      return t`Finding the paper first`;
    case 'office':
      return t`The office is looking at it`;
    case 'binding':
      return t`Binding, ${{ share: Math.round(100 * action.fraction) }} %`;
    case 'sending':
      return t`Sending, ${{ share: Math.round(100 * action.fraction) }} %`;
  }
}

/** Every kind of step that can be undone. */
export type StepKey =
  | 'assignment'
  | 'name'
  | 'paper'
  | 'naming'
  | 'margin'
  | 'limit'
  | 'sameWidth'
  | 'searchable'
  | 'language'
  | 'showMarks'
  | 'cover'
  | 'author'
  | 'edges'
  | 'check'
  | 'rotate'
  | 'finish'
  | 'light'
  | 'lightReset'
  | 'mending'
  | 'marks'
  | 'addPage'
  | 'addPages'
  | 'retake'
  | 'fillGlare'
  | 'deletePages'
  | 'restorePages'
  | 'leaveOut'
  | 'include'
  | 'move'
  | 'reverse'
  | 'sortByTime'
  | 'advisedOrder'
  | 'duplicate'
  | 'split'
  | 'copyTo'
  | 'moveTo';

/** What a step did, as a key for the words that name it; `count` is how many pages it concerns, 1 where left out. */
export interface StepLabel {
  readonly key: StepKey;
  readonly count?: number;
}

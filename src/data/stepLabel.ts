const pages = (count: number): string => (count === 1 ? 'a page' : `${count} pages`);

/** What follows “Undo” or “Redo”, by what the step did. */
const DESCRIPTIONS = {
  assignment: () => 'the assignment',
  name: () => 'the new name',
  paper: () => 'the paper',
  naming: () => 'the name’s convention',
  margin: () => 'the margin',
  limit: () => 'the limit',
  sameWidth: () => 'one width for all',
  searchable: () => 'words in the file',
  showMarks: () => 'showing marks',
  cover: () => 'the cover sheet',
  author: () => 'the author',
  edges: () => 'the edges',
  check: () => 'the check',
  rotate: (count) => (count === 1 ? 'the turn' : `turning ${count} pages`),
  finish: () => 'the finish',
  light: (count) => (count === 1 ? 'the light' : `the light on ${count} pages`),
  lightReset: () => 'the light’s reset',
  mending: () => 'the mending',
  marks: () => 'the marks',
  addPage: () => 'adding a page',
  addPages: () => 'adding pages',
  retake: () => 'shooting a page again',
  deletePages: (count) => `deleting ${pages(count)}`,
  restorePages: (count) => `restoring ${pages(count)}`,
  leaveOut: (count) => `leaving out ${pages(count)}`,
  include: (count) => `including ${pages(count)}`,
  move: (count) => `moving ${pages(count)}`,
  reverse: () => 'the reverse order',
  sortByTime: () => 'the order of shooting',
  advisedOrder: () => 'the suggested order',
  duplicate: (count) => `copying ${pages(count)}`,
  copyTo: (count) => `copying ${pages(count)} to another hand-in`,
  moveTo: (count) => `moving ${pages(count)} to another hand-in`,
} satisfies Record<string, (count: number) => string>;

/** What a step did, as a key for the words that name it; `count` is how many pages it concerns, 1 where left out. */
export interface StepLabel {
  readonly key: keyof typeof DESCRIPTIONS;
  readonly count?: number;
}

/** @param label - or, of a step kept by an earlier version, its words */
export const describeStep = (label: StepLabel | string): string =>
  typeof label === 'string' ? label : DESCRIPTIONS[label.key](label.count ?? 1);

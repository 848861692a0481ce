import { PLAIN_BINDING } from '../../../core/work/hand-in/bindSettings';
import type { HandIn } from '../../../core/work/hand-in/handIn';
import type { Assignment, Receipt } from '../../../core/work/office/assignment';
import { wholePhotoRecipe } from '../../../core/work/recipe/plainRecipe';
import { deskRows, whatLacks } from './deskRows';

const assignment = (id: string, dueMs: number, leastPages = 1): Assignment => ({
  id,
  courseCode: 'TTS',
  course: 'Tides',
  title: id,
  asks: '',
  leastPages,
  mostPages: 9,
  maxBytes: 1e6,
  name: null,
  dueMs,
  graceMs: 0,
  attempts: 3,
  fields: [],
  marking: '',
});
const handIn = (id: string, assignmentId: string | null, pages: number, changedAtMs = 1): HandIn => ({
  id,
  title: id,
  paper: 'auto',
  binding: PLAIN_BINDING,
  assignmentId,
  createdAtMs: 1,
  changedAtMs,
  removedAtMs: null,
  deletedPageIds: [],
  pages: Array.from({ length: pages }, (_, i) => ({
    id: `${id}-${i}`,
    originalId: `${i}`,
    fileName: 'a.jpg',
    width: 10,
    height: 14,
    pdfPage: null,
    takenAtMs: null,
    leftOut: false,
    removedAtMs: null,
    findings: null,
    recipe: wholePhotoRecipe(10, 14, 'daylight'),
  })),
});
const receipt = (assignmentId: string, withdrawn = false, notes: Receipt['notes'] = []): Receipt => ({
  submissionId: `s-${assignmentId}`,
  assignmentId,
  number: 'SP-1',
  attempt: 1,
  fileName: 'a.pdf',
  bytes: 1,
  pages: 1,
  sha256: '',
  atMs: 5,
  late: false,
  comment: '',
  withdrawn,
  notes,
});

describe('the desk', () => {
  it('has what is due first on top, begun or not, and what was received at the end', () => {
    const rows = deskRows(
      [handIn('alone', null, 1, 9), handIn('later', 'c', 1), handIn('done', 'a', 1)],
      [assignment('a', 10), assignment('b', 20), assignment('c', 30), assignment('over', 1)],
      [receipt('a')],
      5,
    );
    expect(rows.map((row) => row.handIn?.id ?? row.assignment?.id)).toEqual(['b', 'later', 'alone', 'done']);
  });

  it.each([
    [handIn('h', 'a', 0), assignment('a', 9), [], 'needs photos'],
    [handIn('h', 'a', 1), assignment('a', 9, 3), [], '2 pages still to shoot'],
    [handIn('h', 'a', 3), assignment('a', 9, 3), [], 'not handed in yet'],
    [handIn('h', 'a', 3), assignment('a', 9, 3), [receipt('a', true)], 'not handed in yet'],
    [handIn('h', 'a', 3), assignment('a', 9, 3), [receipt('a')], 'received, SP-1'],
    [
      handIn('h', 'a', 3),
      assignment('a', 9, 3),
      [receipt('a', false, [{ page: 0, text: '17' }])],
      'returned with notes',
    ],
  ])('says what a hand-in lacks (%#)', (own, asked, receipts, says) => {
    expect(whatLacks(deskRows([own], [asked], receipts, 5)[0]!).says).toBe(says);
  });
});

import { PLAIN_BINDING } from '../hand-in/bindSettings';
import type { HandIn, Page } from '../hand-in/handIn';
import { wholePhotoRecipe } from '../recipe/plainRecipe';
import type { Advice } from '../order/advise';
import { standing, type Assignment, type Receipt } from '../office/assignment';
import { isReady, readyCheck, type ReadyFacts } from './readyCheck';

const HOUR = 3_600_000;
const assignment: Assignment = {
  id: 'set-4',
  courseCode: 'TTS',
  course: 'Tides',
  title: 'Set 4',
  asks: '',
  leastPages: 1,
  mostPages: 3,
  maxBytes: 1_000_000,
  name: null,
  dueMs: 10 * HOUR,
  graceMs: 2 * HOUR,
  attempts: 2,
  fields: [{ key: 'section', label: 'Section' }],
  marking: '',
};
const page = (n: number): Page => ({
  id: `page-${n}`,
  originalId: `o${n}`,
  fileName: `${n}.jpg`,
  width: 100,
  height: 141,
  pdfPage: null,
  takenAtMs: null,
  leftOut: false,
  removedAtMs: null,
  findings: null,
  recipe: wholePhotoRecipe(100, 141, 'daylight'),
});
const handIn: HandIn = {
  id: 'h',
  title: 'Set 4',
  paper: 'auto',
  binding: PLAIN_BINDING,
  assignmentId: 'set-4',
  createdAtMs: 0,
  changedAtMs: 0,
  removedAtMs: null,
  deletedPageIds: [],
  pages: [page(1), page(2)],
};
const receipt: Receipt = {
  submissionId: 's',
  assignmentId: 'set-4',
  number: 'R-1',
  attempt: 1,
  fileName: 'a.pdf',
  bytes: 1,
  pages: 2,
  sha256: 'old',
  atMs: 1,
  late: false,
  comment: '',
  withdrawn: false,
  notes: [],
};
const fine: ReadyFacts = {
  handIn,
  nowMs: HOUR,
  findings: {},
  blankPages: [],
  unseenPages: [],
  orderAdvice: [],
  file: { bytes: 400_000, fresh: true, parts: 1, name: 'a.pdf', sha256: 'new' },
  wantedName: null,
  assignment,
  account: { id: 'm', first: 'Mira', family: 'Tolvanen-Adeyemi', number: 'SP-20417' },
  profileNumber: 'SP-20417',
  fields: { section: 'B' },
  receipts: [],
};
const gap: Advice = { kind: 'gap', of: 'page', after: 3, next: 5 };
const worst = (facts: Partial<ReadyFacts>) => readyCheck({ ...fine, ...facts })[0]!;

describe('readyCheck', () => {
  it('is clean where everything is right, and says what was looked at', () => {
    const lines = readyCheck(fine);
    expect(lines.every(({ level }) => level === 'fine')).toBe(true);
    expect(lines.length).toBeGreaterThan(5);
    expect(isReady(lines, [])).toBe(true);
  });

  it.each<[string, Partial<ReadyFacts>, string, string]>([
    ['no file', { file: null }, 'stop', 'bind'],
    ['a stale file', { file: { ...fine.file!, fresh: false } }, 'stop', 'bind'],
    ['a file in parts', { file: { ...fine.file!, parts: 2 } }, 'stop', 'parts'],
    ['a file over the limit', { file: { ...fine.file!, bytes: 1_200_000 } }, 'stop', 'size'],
    ['a wrong name', { wantedName: 'b.pdf' }, 'stop', 'name'],
    ['no account', { account: null }, 'stop', 'account'],
    ['an empty field', { fields: { section: ' ' } }, 'stop', 'field section'],
    ['a closed assignment', { nowMs: 13 * HOUR }, 'stop', 'closed'],
    ['no attempt left', { receipts: [receipt, { ...receipt, attempt: 2 }] }, 'stop', 'attempts'],
    ['no pages', { handIn: { ...handIn, pages: [] } }, 'stop', 'no-pages'],
    ['too few pages', { assignment: { ...assignment, leastPages: 3 } }, 'doubt', 'count 2'],
    ['late', { nowMs: 11 * HOUR }, 'doubt', 'late set-4'],
    ['another person’s account', { profileNumber: 'SP-1' }, 'doubt', 'account m'],
    ['the same file again', { receipts: [{ ...receipt, sha256: 'new' }] }, 'doubt', 'same new'],
    ['a gap', { orderAdvice: [gap] }, 'doubt', `order ${JSON.stringify(gap)} page-1,page-2`],
    ['a blurred page', { findings: { 'page-2': ['blurred'] } }, 'doubt', 'blurred page-2 o2'],
    ['a blank page', { blankPages: ['page-1'] }, 'doubt', 'blank page-1 o1'],
  ])('%s is pointed out first', (_name, facts, level, key) => {
    expect(worst(facts)).toMatchObject({ level, key });
    expect(worst(facts).fix).not.toBeNull();
  });

  it('says nothing of shots and order before all were looked at, and lets nobody wait for it', () => {
    const lines = readyCheck({ ...fine, unseenPages: ['page-2'] });
    const said = lines.map(({ point }) => point.code);
    expect(said).not.toContain('shotsFine');
    expect(said).not.toContain('orderFine');
    expect(lines[0]).toMatchObject({ level: 'wait', point: { code: 'looking', count: 1 } });
    expect(isReady(lines, [])).toBe(true);
  });

  it('is ready once every doubt was accepted by name; a stop cannot be', () => {
    const lines = readyCheck({ ...fine, findings: { 'page-2': ['blurred'] } });
    expect(isReady(lines, [])).toBe(false);
    expect(isReady(lines, ['blurred page-2 o2'])).toBe(true);
    expect(isReady(readyCheck({ ...fine, account: null }), ['account'])).toBe(false);
    // another shot in its place is asked about again
    const again = { ...handIn, pages: [page(1), { ...page(2), originalId: 'o3' }] };
    expect(
      isReady(readyCheck({ ...fine, handIn: again, findings: { 'page-2': ['blurred'] } }), ['blurred page-2 o2']),
    ).toBe(false);
  });

  it('does not ask for a thumb that was mended, nor count what was withdrawn', () => {
    const mended = { ...page(1), recipe: { ...page(1).recipe, mends: [{ points: [{ x: 1, y: 1 }], radius: 3 }] } };
    expect(
      isReady(readyCheck({ ...fine, handIn: { ...handIn, pages: [mended] }, findings: { 'page-1': ['thumb'] } }), []),
    ).toBe(true);
    expect(
      isReady(
        readyCheck({
          ...fine,
          receipts: [
            { ...receipt, withdrawn: true },
            { ...receipt, withdrawn: true },
          ],
        }),
        [],
      ),
    ).toBe(true);
  });

  it('knows what is open, late and closed', () => {
    expect(
      [HOUR, 10 * HOUR, 10 * HOUR + 1, 12 * HOUR, 12 * HOUR + 1].map((nowMs) => standing(assignment, nowMs)),
    ).toEqual(['open', 'open', 'late', 'late', 'closed']);
  });
});

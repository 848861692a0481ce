import type { OfficeRepository, Rules } from './officeRepository';

const HOUR_MS = 3_600_000;
const DAY_MS = 24 * HOUR_MS;

/** Made-up people; PINs are in the README. */
const PEOPLE = [
  { id: 'mira', family: 'Tolvanen-Adeyemi', first: 'Mira', number: 'SP-20417', pin: '2041', reader: false },
  { id: 'jonas', family: 'Hallqvist-Oduya', first: 'Jonas', number: 'SP-20388', pin: '2038', reader: false },
  { id: 'ines', family: 'Marchetti-Boateng', first: 'Ines', number: 'ST-0112', pin: '0112', reader: true },
] as const;

export const DEMO_ACCOUNT_IDS: ReadonlySet<string> = new Set(PEOPLE.map(({ id }) => id));
/** Who a newcomer to the demo is. */
export const DEMO_STUDENT = PEOPLE[0];

const usual: Omit<Rules, 'courseCode' | 'course' | 'title' | 'asks'> = {
  leastPages: 1,
  mostPages: 12,
  maxBytes: 2_000_000,
  name: null,
  graceMs: 12 * HOUR_MS,
  attempts: 20,
  fields: [],
  marking: 'Marked by hand within two weeks; notes come back page by page.',
};

/** Due so many hours from the day the office opens. */
const ASSIGNMENTS: readonly { readonly id: string; readonly dueInHours: number; readonly rules: Rules }[] = [
  {
    id: 'tides-set-4',
    dueInHours: 7,
    rules: {
      ...usual,
      courseCode: 'TTS',
      course: 'Tides and Tidal Streams',
      title: 'Set 4: heights at a secondary port',
      asks: 'All six questions with their working, and the tide curve. Write on squared paper; number the pages.',
      leastPages: 3,
      mostPages: 8,
      maxBytes: 1_000_000,
      name: { pieces: [{ kind: 'family' }, { kind: 'number' }, { kind: 'words', text: 'Set4' }], separator: '_' },
      fields: [{ key: 'section', label: 'Section (A to D)' }],
    },
  },
  {
    id: 'botany-shore-log',
    dueInHours: 31,
    rules: {
      ...usual,
      courseCode: 'BOT',
      course: 'Seashore Botany',
      title: 'Shore log: quadrat survey',
      asks: 'The filled-in log sheet and one pencil plate.',
      leastPages: 2,
      mostPages: 4,
      maxBytes: 5_000_000,
      fields: [],
    },
  },
  {
    id: 'ropework-plate-2',
    dueInHours: 6 * 24,
    rules: {
      ...usual,
      courseCode: 'ROP',
      course: 'Ropework Drawing',
      title: 'Plate 2: bowline and sheet bend',
      asks: 'One plate in two inks.',
      leastPages: 1,
      mostPages: 1,
      maxBytes: 1_000_000,
      attempts: 3,
    },
  },
  {
    id: 'botany-plate-1',
    dueInHours: -6,
    rules: {
      ...usual,
      courseCode: 'BOT',
      course: 'Seashore Botany',
      title: 'Plate 1: sea campion',
      asks: 'One pencil plate.',
      leastPages: 1,
      mostPages: 1,
      maxBytes: 5_000_000,
      attempts: 3,
    },
  },
  {
    id: 'tides-set-3',
    dueInHours: -40,
    rules: {
      ...usual,
      courseCode: 'TTS',
      course: 'Tides and Tidal Streams',
      title: 'Set 3: rule of twelfths',
      asks: 'Questions 1 to 4.',
      leastPages: 1,
      mostPages: 6,
      maxBytes: 1_000_000,
      graceMs: 24 * HOUR_MS,
      attempts: 1,
    },
  },
];

/** Fills the office for the demo. What is due moves along with the days, so that the demo never grows old. */
export function seedOffice(office: OfficeRepository, nowMs: number): void {
  office.transaction(() => {
    for (const { id, pin, reader, ...who } of PEOPLE) office.addAccount(id, who, pin, reader);
    const kept = new Map(office.assignments().map((each) => [each.id, each.dueMs]));
    ASSIGNMENTS.forEach(({ id, dueInHours, rules }, position) => {
      const dueMs = kept.get(id);
      const days = dueMs === undefined ? 0 : Math.max(0, Math.floor((nowMs + dueInHours * HOUR_MS - dueMs) / DAY_MS));
      // a whole hour looks like a time that somebody set
      office.saveAssignment(
        id,
        position,
        dueMs === undefined ? Math.ceil((nowMs + dueInHours * HOUR_MS) / HOUR_MS) * HOUR_MS : dueMs + days * DAY_MS,
        rules,
      );
    });
  });
}

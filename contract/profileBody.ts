import { IsDefined, IsIn, IsString, Matches, MaxLength, ValidateBy, validateSync } from 'class-validator';
import type { NamePattern } from '../core/work/naming/namePattern';
import type { Paper } from '../core/work/paper/paperSize';
import { instanceOf, Nested } from './nested';
import { NamePatternBody, PAPERS } from './operationBodies';
import { LINK_CODE, MOST_NAME_LETTERS, MOST_NUMBER_SIGNS, PLAIN_NAME, STUDENT_NUMBER } from './fieldRules';
import { OrNull } from './orNull';

const plainly = (what: string) => ({ message: `Write ${what} without < > " | ? * \\ / or :` });

const MOST_COURSES = 200;
const isNamePattern = (value: unknown): boolean =>
  typeof value === 'object' &&
  value !== null &&
  validateSync(instanceOf(NamePatternBody, value), { forbidNonWhitelisted: true, whitelist: true }).length === 0;

/** By course, how its files are named. */
const AreCourseNames = (): PropertyDecorator =>
  ValidateBy(
    {
      name: 'areCourseNames',
      validator: {
        validate: (value: unknown) =>
          typeof value === 'object' &&
          value !== null &&
          !Array.isArray(value) &&
          Object.keys(value).length <= MOST_COURSES &&
          Object.entries(value).every(([course, pattern]) => course.length <= 60 && isNamePattern(pattern)),
      },
    },
    { message: `courseNames must give at most ${MOST_COURSES} courses a pattern each` },
  );

/** Who hands in; checked in the form and at the server's door. */
export class ProfileBody {
  @IsString()
  @MaxLength(MOST_NAME_LETTERS, { message: 'At most 60 letters' })
  @Matches(PLAIN_NAME, plainly('the name'))
  first!: string;
  @IsString()
  @MaxLength(MOST_NAME_LETTERS, { message: 'At most 60 letters' })
  @Matches(PLAIN_NAME, plainly('the name'))
  family!: string;
  @IsString()
  @MaxLength(MOST_NUMBER_SIGNS, { message: 'At most 40 signs' })
  @Matches(STUDENT_NUMBER, {
    message: 'Letters, digits, spaces, dots and dashes only, as on your student card',
  })
  number!: string;
  @IsIn(PAPERS) paper!: Paper;
  @OrNull()
  @IsDefined()
  @Nested(() => NamePatternBody)
  name!: NamePattern | null;
  @AreCourseNames() courseNames!: Record<string, NamePattern>;
}

export class LinkBody {
  @Matches(LINK_CODE, { message: 'The code has eight letters and digits, as the other screen shows it' })
  code!: string;
}

import { IsDefined, IsIn, IsString, Matches, MaxLength, ValidateBy, validateSync } from 'class-validator';
import type { NamePattern } from '../core/naming/namePattern';
import type { Paper } from '../core/pdf/paperSize';
import { instanceOf, Nested } from './nested';
import { NamePatternBody, PAPERS } from './operationBodies';
import { OrNull } from './orNull';

const PLAIN = /^[^\p{Cc}<>"|?*\\/:]*$/u;
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
  @IsString() @MaxLength(60, { message: 'At most 60 letters' }) @Matches(PLAIN, plainly('the name')) first!: string;
  @IsString() @MaxLength(60, { message: 'At most 60 letters' }) @Matches(PLAIN, plainly('the name')) family!: string;
  @IsString()
  @MaxLength(40, { message: 'At most 40 signs' })
  @Matches(/^[\p{L}\p{N} ._-]*$/u, {
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

/** A code as a person may type it: with or without its dash, large or small. */
export class LinkBody {
  @Matches(/^[0-9a-zA-Z -]{8,12}$/, { message: 'The code has eight letters and digits, as the other screen shows it' })
  code!: string;
}

import { Type } from 'class-transformer';
import { IsDefined, IsIn, IsObject, IsString, Matches, MaxLength, ValidateIf, ValidateNested } from 'class-validator';
import type { NamePattern } from '../core/naming/namePattern';
import type { Paper } from '../core/pdf/paperSize';
import { NamePatternBody } from './operationBodies';

const PLAIN = /^[^\p{Cc}<>"|?*\\/:]*$/u;
const plainly = (what: string) => ({ message: `Write ${what} without < > " | ? * \\ / or :` });

/** Who hands in; checked in the form and at the server's door. */
export class ProfileBody {
  @IsString() @MaxLength(60, { message: 'At most 60 letters' }) @Matches(PLAIN, plainly('the name')) first!: string;
  @IsString() @MaxLength(60, { message: 'At most 60 letters' }) @Matches(PLAIN, plainly('the name')) family!: string;
  @IsString() @MaxLength(40, { message: 'At most 40 signs' }) @Matches(/^[\p{L}\p{N} ._-]*$/u, { message: 'Letters, digits, spaces, dots and dashes only, as on your student card' }) number!: string;
  @IsIn(['auto', 'a4', 'letter', 'a5', 'asshot'] satisfies Paper[]) paper!: Paper;
  @ValidateIf((body: ProfileBody) => body.name !== null) @IsDefined() @ValidateNested() @Type(() => NamePatternBody) name!: NamePattern | null;
  /** Each is checked as it is used: a file's name is made safe whatever it is made of. */
  @IsObject() courseNames!: Record<string, NamePattern>;
}

/** A code as a person may type it: with or without its dash, large or small. */
export class LinkBody {
  @Matches(/^[0-9a-zA-Z -]{8,12}$/, { message: 'The code has eight letters and digits, as the other screen shows it' }) code!: string;
}

import { IsEmail, IsIn, IsOptional, IsString, Length, Matches, MaxLength } from 'class-validator';

import { MOST_MAIL_LETTERS, MOST_SUBJECT_LETTERS } from './fieldRules';

const FOLDER = /^(\/[^\p{Cc}/\\]{1,60}){0,6}$/u;
const FILE_NAME = /^[^\p{Cc}/\\]{1,150}\.pdf$/iu;

/** What the locker and the post tray are sent. */
export class FolderBody {
  @Matches(FOLDER, { message: 'A folder is a path such as /Tides/Set 4' }) path!: string;
}

export const ON_EXISTING = ['ask', 'replace', 'both'] as const;
export type OnExisting = (typeof ON_EXISTING)[number];

export class LockerFileBody extends FolderBody {
  @Matches(FILE_NAME, { message: 'A file needs a name that ends in .pdf' }) name!: string;
  @IsIn(ON_EXISTING) onExisting!: OnExisting;
}

/** What a person writes of a mail. */
export class MailBody {
  @IsEmail({ allow_utf8_local_part: true }, { message: 'Write one mail address, such as office@skerrypoint.example' })
  to!: string;
  @IsString() @Length(1, MOST_SUBJECT_LETTERS, { message: 'Write what it is about' }) subject!: string;
  @IsOptional() @IsString() @MaxLength(MOST_MAIL_LETTERS, { message: 'At most 5000 letters' }) text?: string;
}

export class MessageBody extends MailBody {
  @Matches(/^[\w-]{8,60}$/, { message: 'key must be 8 to 60 letters, digits, - or _' }) key!: string;
  @Matches(FILE_NAME, { message: 'A file needs a name that ends in .pdf' }) name!: string;
}

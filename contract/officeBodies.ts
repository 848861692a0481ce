import { IsIn, IsInt, IsOptional, IsString, Length, Matches, Max, Min } from 'class-validator';
import { MOST_NUMBER_SIGNS, MOST_PIN_SIGNS } from './fieldRules';
import { NumberInText } from './nested';

/** What the course office is sent. */
export class SignInBody {
  @IsString() @Length(1, MOST_NUMBER_SIGNS, { message: 'Write the number on your student card' }) number!: string;
  @IsString() @Length(1, MOST_PIN_SIGNS, { message: 'Write your PIN or password' }) pin!: string;
}

/** The words that come with a file; the fields an assignment asks for are JSON. */
export class SubmissionBody {
  @Matches(/^[\w-]{8,60}$/, { message: 'key must be 8 to 60 letters, digits, - or _' }) key!: string;
  @Matches(/^[0-9a-f]{64}$/, { message: 'sha256 must be the SHA-256 of the file in hexadecimal' }) sha256!: string;
  @IsString() @Length(1, 160) fileName!: string;
  /** From which byte on the file comes: what arrived before need not come again. */
  @IsOptional() @NumberInText() @IsInt() @Min(0) offset?: number;
  @IsOptional() @IsString() @Length(0, 2000) comment?: string;
  @IsOptional() @IsString() @Length(0, 4000) fields?: string;
}

export class NoteBody {
  @NumberInText() @IsInt() @Min(0) @Max(5000) page!: number;
  @IsString() @Length(1, 2000) text!: string;
}

export const WEATHERS = ['calm', 'slow', 'refusing', 'down', 'dropping'] as const;
export type Weather = (typeof WEATHERS)[number];

/** How the simulated office feels today; only where it is a demo. */
export class WeatherBody {
  @IsIn(WEATHERS) weather!: Weather;
}

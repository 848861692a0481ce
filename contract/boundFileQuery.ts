import { IsInt, IsOptional, IsString, Length, Matches, Max, Min } from 'class-validator';
import { NumberInText } from './nested';

/** What comes in the address when a bound file is sent. */
export class BoundFileQuery {
  @IsString() @Length(5, 160) name!: string;
  @NumberInText() @IsInt() @Min(1) @Max(2000) pages!: number;
  @Matches(/^[0-9a-f]{64}$/, { message: 'sha256 must be the SHA-256 of the file in hexadecimal' }) sha256!: string;
  /** BoundFileFacts as JSON. */
  @IsOptional() @IsString() @Length(2, 14_000) facts?: string;
}

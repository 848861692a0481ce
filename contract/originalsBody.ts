import { ArrayMaxSize, IsArray, Matches } from 'class-validator';

/** Originals by their SHA-256. */
export class OriginalsBody {
  @IsArray()
  @ArrayMaxSize(1000)
  @Matches(/^[0-9a-f]{64}$/, { each: true, message: 'ids must be SHA-256 in hexadecimal' })
  ids!: string[];
}

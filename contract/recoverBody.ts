import { IsIn, Matches } from 'class-validator';
import { DELETE_WORD } from './deleteWord';

/** A recovery code as a person may type it: twelve words, however they are spaced and whatever their case. */
export class RecoverBody {
  @Matches(/^\s*([a-zA-Z]{2,12}[\s,-]+){11}[a-zA-Z]{2,12}\s*$/, { message: 'The recovery code has twelve words' })
  code!: string;
}

export class DeleteEverythingBody {
  @IsIn([DELETE_WORD], { message: `Type “${DELETE_WORD}” to delete everything` }) word!: string;
}

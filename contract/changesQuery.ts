import { IsInt, Max, Min } from 'class-validator';
import { NumberInText } from './nested';

/** From which change on something is asked for; 0 asks for everything. */
export class ChangesQuery {
  @NumberInText()
  @IsInt({ message: 'since must be the number of a change, 0 for all' })
  @Min(0)
  @Max(Number.MAX_SAFE_INTEGER)
  since!: number;
}

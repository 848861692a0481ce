import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsDefined,
  IsIn,
  IsInt,
  IsNumber,
  IsOptional,
  IsString,
  Length,
  Matches,
  Max,
  Min,
  ValidateBy,
  ValidateIf,
  ValidateNested,
  type ValidationOptions,
} from 'class-validator';
import type { OperationKind } from '../core/handIn/operation';

const ID = /^[\w-]{8,40}$/;
const SHA256 = /^[0-9a-f]{64}$/;

const isBend = (value: unknown): boolean => Array.isArray(value) && value.length === 3 && value.every((share) => typeof share === 'number' && Math.abs(share) <= 1);

/** Four sides, each with three shares. */
const IsBends = (options: ValidationOptions): PropertyDecorator =>
  ValidateBy({ name: 'isBends', validator: { validate: (value: unknown) => Array.isArray(value) && value.length === 4 && value.every(isBend) } }, options);

export class PointBody {
  @IsNumber({ allowNaN: false, allowInfinity: false }) x!: number;
  @IsNumber({ allowNaN: false, allowInfinity: false }) y!: number;
}

export class OutlineBody {
  @IsArray() @ArrayMinSize(4) @ArrayMaxSize(4) @ValidateNested({ each: true }) @Type(() => PointBody) corners!: PointBody[];
  @IsOptional() @IsBends({ message: 'bends must be four sides of three shares between -1 and 1' }) bends?: number[][];
  @IsIn(['pending', 'found', 'hand', 'whole']) by!: 'pending' | 'found' | 'hand' | 'whole';
  @IsNumber({ allowNaN: false, allowInfinity: false }) @Min(0) @Max(1) confidence!: number;
}

export class LightBody {
  @IsNumber() @Min(0) @Max(1) strength!: number;
  @IsNumber() @Min(-1) @Max(1) brightness!: number;
  @IsNumber() @Min(-1) @Max(1) contrast!: number;
  @IsNumber() @Min(-1) @Max(1) colour!: number;
  @IsNumber() @Min(0) @Max(1) sharpness!: number;
  @IsBoolean() fadeRules!: boolean;
  @IsBoolean() invert!: boolean;
}

export class MendBody {
  @IsArray() @ArrayMinSize(1) @ArrayMaxSize(200) @ValidateNested({ each: true }) @Type(() => PointBody) points!: PointBody[];
  @IsNumber() @Min(0.1) @Max(30_000) radius!: number;
}

export class RecipeBody {
  /** Earlier versions may still wait on a device that was offline; the server brings them up to date. */
  @IsIn([1, 2, 3, 4]) version!: 1 | 2 | 3 | 4;
  @ValidateIf((body: RecipeBody) => body.version !== 1) @IsIn(['sheet', 'spread', 'board', 'card', 'picture']) kind?: string;
  @IsDefined() @ValidateNested() @Type(() => OutlineBody) outline!: OutlineBody;
  @ValidateIf((body: RecipeBody) => body.version >= 3) @IsIn(['auto', 'a', 'letter', 'card', 'free']) sheet?: string;
  @IsIn([0, 1, 2, 3]) quarterTurns!: number;
  @IsOptional() @IsNumber({ allowNaN: false, allowInfinity: false }) @Min(0) @Max(1) uprightConfidence?: number | null;
  @IsIn(['asshot', 'daylight', 'pencil', 'press', 'board']) finish!: string;
  @ValidateIf((body: RecipeBody) => body.version >= 4) @IsDefined() @ValidateNested() @Type(() => LightBody) light?: LightBody;
  @ValidateIf((body: RecipeBody) => body.version >= 4) @IsArray() @ArrayMaxSize(400) @ValidateNested({ each: true }) @Type(() => MendBody) mends?: MendBody[];
}

class OperationBody {
  @Matches(ID, { message: 'id must be 8 to 40 letters, digits, - or _' }) id!: string;
  @Matches(ID, { message: 'handInId must be 8 to 40 letters, digits, - or _' }) handInId!: string;
  @IsInt() @Min(0) atMs!: number;
  @IsString() kind!: OperationKind;
}

class PageOperationBody extends OperationBody {
  @Matches(ID, { message: 'pageId must be 8 to 40 letters, digits, - or _' }) pageId!: string;
}

export class CreateHandInBody extends OperationBody {
  @IsString() @Length(1, 120) title!: string;
  @IsIn(['auto', 'a4', 'letter']) paper!: string;
}

export class ChangeHandInBody extends OperationBody {
  @IsOptional() @IsString() @Length(1, 120) title?: string;
  @IsOptional() @IsIn(['auto', 'a4', 'letter']) paper?: string;
  @IsOptional() @IsBoolean() removed?: boolean;
}

class PageSourceBody extends PageOperationBody {
  @Matches(SHA256, { message: 'originalId must be the SHA-256 of the photo in hexadecimal' }) originalId!: string;
  @IsString() @Length(1, 255) fileName!: string;
  @IsInt() @Min(1) @Max(30_000) width!: number;
  @IsInt() @Min(1) @Max(30_000) height!: number;
  @IsOptional() @IsInt() @Min(0) @Max(5000) pdfPage?: number;
  @IsOptional() @IsInt() @Min(0) takenAtMs?: number;
  @IsDefined() @ValidateNested() @Type(() => RecipeBody) recipe!: RecipeBody;
}

export class AddPageBody extends PageSourceBody {
  @IsOptional() @Matches(ID, { message: 'afterPageId must be a page id' }) afterPageId?: string;
}
export class ReplaceOriginalBody extends PageSourceBody {}

export class SetRecipeBody extends PageOperationBody {
  @IsDefined() @ValidateNested() @Type(() => RecipeBody) recipe!: RecipeBody;
}

export class MovePageBody extends PageOperationBody {
  @ValidateIf((body: MovePageBody) => body.afterPageId !== null)
  @Matches(ID, { message: 'afterPageId must be a page id, or null for the front' })
  afterPageId!: string | null;
}

export class OrderPagesBody extends OperationBody {
  @IsArray() @ArrayMaxSize(5000) @Matches(ID, { each: true, message: 'pageIds must be page ids' }) pageIds!: string[];
}
export class LeaveOutBody extends PageOperationBody {
  @IsBoolean() leftOut!: boolean;
}

export class RemovePageBody extends PageOperationBody {}
export class RestorePageBody extends PageOperationBody {}

/** The class that checks each kind of operation. */
export const OPERATION_BODIES: Readonly<Record<OperationKind, new () => OperationBody>> = {
  createHandIn: CreateHandInBody,
  changeHandIn: ChangeHandInBody,
  addPage: AddPageBody,
  replaceOriginal: ReplaceOriginalBody,
  setRecipe: SetRecipeBody,
  movePage: MovePageBody,
  orderPages: OrderPagesBody,
  leaveOut: LeaveOutBody,
  removePage: RemovePageBody,
  restorePage: RestorePageBody,
};

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
  type ValidationOptions,
} from 'class-validator';
import type { OperationKind } from '../core/work/hand-in/operation';
import type { Paper } from '../core/work/paper/paperSize';
import type { LINE_PLACES, MOST_LINES, PageLine } from '../core/imaging/flatten/pageLine';
import type { SIDE_DETAIL } from '../core/imaging/geometry/bentOutline';
import type { ShotFinding } from '../core/imaging/quality/shotFindings';
import type { ReadLanguage } from '../core/work/words/readLanguages';
import type { RECIPE_VERSION, RecipeField } from '../core/work/recipe/recipe';
import { Nested } from './nested';
import { OrNull } from './orNull';

const ID = /^[\w-]{8,40}$/;
const SHA256 = /^[0-9a-f]{64}$/;

/** Versions of recipes that are taken; the core’s newest is the last, or this does not compile. */
const RECIPE_VERSIONS: readonly [1, 2, 3, 4, 5, 6, 7, typeof RECIPE_VERSION] = [1, 2, 3, 4, 5, 6, 7, 8];

/** Places at which a side was traced. */
const TRACED: typeof SIDE_DETAIL = 23;

const isBend = (value: unknown): boolean =>
  Array.isArray(value) &&
  (value.length === 3 || value.length === TRACED) &&
  value.every((share) => typeof share === 'number' && Math.abs(share) <= 1);

/** Four sides, each with three shares, or TRACED where it was followed in detail. */
const IsBends = (options: ValidationOptions): PropertyDecorator =>
  ValidateBy(
    {
      name: 'isBends',
      validator: { validate: (value: unknown) => Array.isArray(value) && value.length === 4 && value.every(isBend) },
    },
    options,
  );

interface PlainPoint {
  readonly x: number;
  readonly y: number;
}
const isPoint = (value: unknown): boolean => {
  if (typeof value !== 'object' || value === null) return false;
  const { x, y } = value as Partial<PlainPoint>;
  return Number.isFinite(x) && Number.isFinite(y) && Object.keys(value).length === 2;
};

/** Lines that stand on a page, of those that run one way, and places that are told of each. */
const LINES_ONE_WAY: typeof MOST_LINES = 16;
const PLACES: typeof LINE_PLACES = 7;

const isLine = (value: unknown): boolean => {
  if (typeof value !== 'object' || value === null) return false;
  const { along, strayPx, points } = value as Partial<PageLine>;
  return (
    (along === 'across' || along === 'down') &&
    Number.isFinite(strayPx) &&
    strayPx! >= 0 &&
    Array.isArray(points) &&
    points.length >= 3 &&
    points.length <= PLACES &&
    points.every(isPoint) &&
    Object.keys(value).length === 3
  );
};

/** Lines that stand on a page, each with 3 to PLACES places. */
const AreLines = (options: ValidationOptions): PropertyDecorator =>
  ValidateBy(
    {
      name: 'areLines',
      validator: {
        validate: (value: unknown) => Array.isArray(value) && value.length <= 2 * LINES_ONE_WAY && value.every(isLine),
      },
    },
    options,
  );

/** A list of 1 to so many points. They are many: each is looked at by hand, not by a class. */
const ArePoints = (most: number): PropertyDecorator =>
  ValidateBy(
    {
      name: 'arePoints',
      constraints: [most],
      validator: {
        validate: (value: unknown) =>
          Array.isArray(value) && value.length > 0 && value.length <= most && value.every(isPoint),
      },
    },
    { message: `points must be 1 to ${most} points of x and y` },
  );

/** The latest moment that a date can tell. */
const LAST_MS = 8.64e15;

export class PointBody {
  @IsNumber({ allowNaN: false, allowInfinity: false }) x!: number;
  @IsNumber({ allowNaN: false, allowInfinity: false }) y!: number;
}

export class OutlineBody {
  @IsArray() @ArrayMinSize(4) @ArrayMaxSize(4) @Nested(() => PointBody, { each: true }) corners!: PointBody[];
  @IsOptional() @IsBends({ message: 'bends must be four sides of 3 or 23 shares between -1 and 1' }) bends?: number[][];
  @IsOptional() @AreLines({ message: 'lines must be at most 32, with 3 to 7 places each' }) lines?: PageLine[];
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
  @ArePoints(200) points!: PlainPoint[];
  @IsNumber() @Min(0.1) @Max(30_000) radius!: number;
}

export class MarkBody {
  @Matches(/^[\w-]{1,40}$/, { message: 'a mark needs an id of its own' }) id!: string;
  @IsIn(['pen', 'highlighter', 'signature', 'note']) kind!: string;
  @Matches(/^#[0-9a-f]{6}$/, { message: 'colour must be #rrggbb' }) colour!: string;
  @ValidateIf((mark: MarkBody) => mark.kind !== 'note') @IsNumber() @Min(0.0001) @Max(0.1) width?: number;
  @ValidateIf((mark: MarkBody) => mark.kind !== 'note') @ArePoints(2000) points?: PlainPoint[];
  @IsOptional() @Matches(/^[\w-]{1,40}$/, { message: 'group must be an id' }) group?: string;
  @ValidateIf((mark: MarkBody) => mark.kind === 'note') @IsDefined() @Nested(() => PointBody) at?: PointBody;
  @ValidateIf((mark: MarkBody) => mark.kind === 'note') @IsString() @Length(1, 500) text?: string;
}

/** A comparison with something that is no number could throw: `version` is checked beside this, not before. */
const isFrom =
  (version: number) =>
  (body: RecipeBody): boolean =>
    typeof body.version === 'number' && body.version >= version;

export class MotionBlurBody {
  @IsNumber() @Min(0.1) @Max(10) lengthPx!: number;
  @IsNumber() @Min(-Math.PI) @Max(Math.PI) angleRad!: number;
}

export class ReadingBody {
  @IsOptional() @IsNumber({ allowNaN: false, allowInfinity: false }) @Min(0.2) @Max(10) focalRatio!: number | null;
  @IsOptional() @Nested(() => MotionBlurBody) motionBlur!: MotionBlurBody | null;
}

export class RecipeBody {
  /** Earlier versions may still wait on a device that was offline; the server brings them up to date. */
  @IsIn(RECIPE_VERSIONS) version!: (typeof RECIPE_VERSIONS)[number];
  @ValidateIf((body: RecipeBody) => body.version !== 1)
  @IsIn(['sheet', 'spread', 'board', 'card', 'picture'])
  kind?: string;
  @ValidateIf(isFrom(6)) @IsDefined() @Nested(() => ReadingBody) reading?: ReadingBody;
  @IsDefined() @Nested(() => OutlineBody) outline!: OutlineBody;
  @ValidateIf(isFrom(3)) @IsIn(['auto', 'a', 'letter', 'card', 'free']) sheet?: string;
  @IsIn([0, 1, 2, 3]) quarterTurns!: number;
  @IsOptional() @IsNumber({ allowNaN: false, allowInfinity: false }) @Min(0) @Max(1) uprightConfidence?: number | null;
  @IsIn(['asshot', 'daylight', 'pencil', 'press', 'board']) finish!: string;
  @ValidateIf(isFrom(4)) @IsDefined() @Nested(() => LightBody) light?: LightBody;
  @ValidateIf(isFrom(4))
  @IsArray()
  @ArrayMaxSize(400)
  @Nested(() => MendBody, { each: true })
  mends?: MendBody[];
  @ValidateIf(isFrom(5))
  @IsArray()
  @ArrayMaxSize(600)
  @Nested(() => MarkBody, { each: true })
  marks?: MarkBody[];
}

class OperationBody {
  @Matches(ID, { message: 'id must be 8 to 40 letters, digits, - or _' }) id!: string;
  @Matches(ID, { message: 'handInId must be 8 to 40 letters, digits, - or _' }) handInId!: string;
  @IsInt() @Min(0) @Max(LAST_MS) atMs!: number;
  @IsString() kind!: OperationKind;
}

class PageOperationBody extends OperationBody {
  @Matches(ID, { message: 'pageId must be 8 to 40 letters, digits, - or _' }) pageId!: string;
}

export const READ_LANGUAGES = ['en', 'es', 'de', 'ar', 'fr', 'pt'] satisfies ReadLanguage[];

export const PAPERS = ['auto', 'a4', 'letter', 'a5', 'asshot'] satisfies Paper[];

export class NamePieceBody {
  @IsIn(['family', 'first', 'initial', 'number', 'course', 'assignment', 'title', 'date', 'attempt', 'words'])
  kind!: string;
  @IsOptional() @IsString() @Length(0, 60) text?: string;
  @IsOptional() @IsIn(['2026-11-24', '24-11-2026', '20261124']) form?: string;
}

export class NamePatternBody {
  @IsArray() @ArrayMaxSize(12) @Nested(() => NamePieceBody, { each: true }) pieces!: NamePieceBody[];
  @IsIn(['_', '-', ' ', '.']) separator!: string;
}

export class BindSettingsBody {
  @IsNumber() @Min(0) @Max(30) marginMm!: number;
  @IsBoolean() sameWidth!: boolean;
  @IsBoolean() cover!: boolean;
  @IsBoolean() searchable!: boolean;
  /** Left out by apps from before there were languages: English. */
  @IsOptional() @IsIn(READ_LANGUAGES) language?: string;
  @IsBoolean() showMarks!: boolean;
  @IsBoolean() author!: boolean;
  @OrNull() @IsInt() @Min(20_000) @Max(2_000_000_000) maxBytes!: number | null;
  @OrNull()
  @IsDefined()
  @Nested(() => NamePatternBody)
  name!: NamePatternBody | null;
}

export class CreateHandInBody extends OperationBody {
  @IsString() @Length(1, 120) title!: string;
  @IsIn(PAPERS) paper!: string;
}

export class ChangeHandInBody extends OperationBody {
  @IsOptional() @IsString() @Length(1, 120) title?: string;
  @IsOptional() @IsIn(PAPERS) paper?: string;
  @IsOptional() @Nested(() => BindSettingsBody) binding?: BindSettingsBody;
  @IsOptional()
  @Matches(ID, { message: 'assignmentId must be an assignment of the course office, or null' })
  assignmentId?: string | null;
  @IsOptional() @IsBoolean() removed?: boolean;
}

class PageSourceBody extends PageOperationBody {
  @Matches(SHA256, { message: 'originalId must be the SHA-256 of the photo in hexadecimal' }) originalId!: string;
  @IsString() @Length(1, 255) fileName!: string;
  @IsInt() @Min(1) @Max(30_000) width!: number;
  @IsInt() @Min(1) @Max(30_000) height!: number;
  @IsOptional() @IsInt() @Min(0) @Max(5000) pdfPage?: number;
  @IsOptional() @IsInt() @Min(0) @Max(LAST_MS) takenAtMs?: number;
  @IsDefined() @Nested(() => RecipeBody) recipe!: RecipeBody;
}

export class AddPageBody extends PageSourceBody {
  @IsOptional() @Matches(ID, { message: 'afterPageId must be a page id, or null for the front' }) afterPageId?:
    string | null;
}
export class ReplaceOriginalBody extends PageSourceBody {}

export class SetRecipeBody extends PageOperationBody {
  @IsDefined() @Nested(() => RecipeBody) recipe!: RecipeBody;
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(20)
  @IsIn(
    [
      'kind',
      'outline',
      'sheet',
      'quarterTurns',
      'uprightConfidence',
      'finish',
      'light',
      'mends',
      'marks',
    ] satisfies RecipeField[],
    { each: true },
  )
  fields?: RecipeField[];
}

export class MovePageBody extends PageOperationBody {
  @OrNull()
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
export class DeletePageBody extends PageOperationBody {}

export const SHOT_FINDINGS = [
  'incomplete',
  'blurred',
  'cut',
  'glare',
  'thumb',
  'lowDetail',
  'dark',
] satisfies ShotFinding[];

export class NoteFindingsBody extends PageOperationBody {
  @Matches(SHA256, { message: 'originalId must be the SHA-256 of the photo in hexadecimal' }) originalId!: string;
  @IsArray()
  @ArrayMaxSize(20)
  @IsIn(SHOT_FINDINGS, { each: true })
  findings!: ShotFinding[];
}

export class DeleteHandInBody extends OperationBody {}

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
  deletePage: DeletePageBody,
  noteFindings: NoteFindingsBody,
  deleteHandIn: DeleteHandInBody,
};

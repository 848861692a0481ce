import { IsArray, IsBoolean, IsDefined, IsIn, IsInt, IsNumber, IsString, Matches, Min } from 'class-validator';
import type { BindSettings } from '../core/work/hand-in/bindSettings';
import type { HandIn, Page } from '../core/work/hand-in/handIn';
import type { Paper } from '../core/work/paper/paperSize';
import type { ShotFinding } from '../core/imaging/quality/shotFindings';
import type { Recipe } from '../core/work/recipe/recipe';
import { Nested } from './nested';
import { BindSettingsBody, PAPERS, RecipeBody, SHOT_FINDINGS } from './operationBodies';
import { OrNull } from './orNull';

/** A page as the server tells it. */
export class PageView implements Page {
  @IsString() readonly id!: string;
  @Matches(/^[0-9a-f]{64}$/) readonly originalId!: string;
  @IsString() readonly fileName!: string;
  @IsInt() @Min(1) readonly width!: number;
  @IsInt() @Min(1) readonly height!: number;
  @OrNull() @IsInt() @Min(0) readonly pdfPage!: number | null;
  @IsDefined() @Nested(() => RecipeBody) readonly recipe!: Recipe;
  @OrNull() @IsInt() readonly takenAtMs!: number | null;
  @IsBoolean() readonly leftOut!: boolean;
  @OrNull() @IsInt() readonly removedAtMs!: number | null;
  @OrNull() @IsArray() @IsIn(SHOT_FINDINGS, { each: true }) readonly findings!: readonly ShotFinding[] | null;
}

/** A hand-in as the server tells it. */
export class HandInView implements HandIn {
  @IsString() readonly id!: string;
  @IsString() readonly title!: string;
  @IsIn(PAPERS) readonly paper!: Paper;
  @IsDefined() @Nested(() => BindSettingsBody) readonly binding!: BindSettings;
  @OrNull() @IsString() readonly assignmentId!: string | null;
  @IsNumber() readonly createdAtMs!: number;
  @IsNumber() readonly changedAtMs!: number;
  @OrNull() @IsNumber() readonly removedAtMs!: number | null;
  @IsArray() @Nested(() => PageView, { each: true }) readonly pages!: readonly Page[];
  @IsArray() @IsString({ each: true }) readonly deletedPageIds!: readonly string[];
}

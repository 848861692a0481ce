import type { BindSettings } from './bindSettings';
import type { Paper } from '../paper/paperSize';
import type { ShotFinding } from '../../imaging/quality/shotFindings';
import type { Recipe } from '../recipe/recipe';

/** One side of paper: an original plus its recipe. */
export interface Page {
  readonly id: string;
  /** SHA-256 of the original's bytes, hex. */
  readonly originalId: string;
  readonly fileName: string;
  /** The upright original's size in px. */
  readonly width: number;
  readonly height: number;
  /** Which page of the original, from 0, where that is a PDF; else null. */
  readonly pdfPage: number | null;
  readonly recipe: Recipe;
  /** When it was shot, as far as its file tells; null where nothing does. */
  readonly takenAtMs: number | null;
  /** Stays in the hand-in, but does not go into the file. */
  readonly leftOut: boolean;
  /** When the person deleted it, or null: until it is deleted for good it keeps its place, so that restoring puts it back there. */
  readonly removedAtMs: number | null;
  /** What is wrong with its shot, worst first; null until somebody has looked. */
  readonly findings: readonly ShotFinding[] | null;
}

/** One piece of work that becomes one file. */
export interface HandIn {
  readonly id: string;
  readonly title: string;
  readonly paper: Paper;
  readonly binding: BindSettings;
  /** What it is handed in for, at the course office; null while it stands alone. */
  readonly assignmentId: string | null;
  readonly createdAtMs: number;
  readonly changedAtMs: number;
  /** When the person deleted it, or null. */
  readonly removedAtMs: number | null;
  /** In reading order, deleted pages among them. */
  readonly pages: readonly Page[];
  /** Pages deleted for good: an operation that arrives late does not bring one back. */
  readonly deletedPageIds: readonly string[];
}

/** The pages that are there, in the file or not. */
export const shownPages = (handIn: HandIn): readonly Page[] => handIn.pages.filter((page) => page.removedAtMs === null);

/** The pages that go into the file. */
export const boundPages = (handIn: HandIn): readonly Page[] =>
  handIn.pages.filter((page) => page.removedAtMs === null && !page.leftOut);

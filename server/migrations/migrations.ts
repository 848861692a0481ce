import { start } from './m0001_start';
import { addPdfPages } from './m0002_pdf_pages';
import { addLeftOut } from './m0003_left_out';
import { addBinding } from './m0004_binding';
import { addScreens } from './m0005_screens';
import { dropBytes } from './m0006_bytes_apart';
import { addChanges } from './m0007_changes';
import { addJoins } from './m0008_joins';

/** In order; a landed migration is never edited. The database's user_version counts those that ran. */
export const MIGRATIONS: readonly string[] = [
  start,
  addPdfPages,
  addLeftOut,
  addBinding,
  addScreens,
  dropBytes,
  addChanges,
  addJoins,
];

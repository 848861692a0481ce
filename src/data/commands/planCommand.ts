import type { HandIn } from '../../../core/work/hand-in/handIn';
import { addPage, type AddPage } from './addPage';
import { adoptHandIn, type AdoptHandIn } from './adoptHandIn';
import { changeHandIn, type ChangeHandIn } from './changeHandIn';
import { duplicatePages, sendPages, type DuplicatePages, type SendPages } from './copyPages';
import { createHandIn, type CreateHandIn } from './createHandIn';
import {
  deleteHandIn,
  deleteHandInForGood,
  restoreHandIn,
  type DeleteHandIn,
  type DeleteHandInForGood,
  type RestoreHandIn,
} from './deleteHandIn';
import {
  deletePages,
  deletePagesForGood,
  restorePages,
  type DeletePages,
  type DeletePagesForGood,
  type RestorePages,
} from './deletePages';
import { fillGlare, type FillGlare } from './fillGlare';
import { leaveOutPages, type LeaveOutPages } from './leaveOutPages';
import { mergeShot, type MergeShot } from './mergeShot';
import { movePageBy, movePages, movePagesTo, type MovePageBy, type MovePages, type MovePagesTo } from './movePages';
import {
  dropUnreadable,
  noteFindings,
  noteFound,
  type DropUnreadable,
  type NoteFindings,
  type NoteFound,
} from './noteFound';
import { orderPages, type OrderPages } from './orderPages';
import type { Plan } from './plan';
import { retakePage, type RetakePage } from './retakePage';
import { setLight, type SetLight } from './setLight';
import { setRecipe, type SetRecipe } from './setRecipe';
import { reverseOrder, sortByTimeTaken, type ReverseOrder, type SortByTimeTaken } from './sortPages';
import { splitSpread, type SplitSpread } from './splitSpread';
import { turnPages, type TurnPages } from './turnPages';

/** Something a person, or a job for them, does to a hand-in, as data. */
export type Command =
  | CreateHandIn
  | AdoptHandIn
  | ChangeHandIn
  | DeleteHandIn
  | RestoreHandIn
  | DeleteHandInForGood
  | AddPage
  | RetakePage
  | MergeShot
  | FillGlare
  | NoteFound
  | NoteFindings
  | DropUnreadable
  | SetRecipe
  | SetLight
  | TurnPages
  | DeletePages
  | RestorePages
  | DeletePagesForGood
  | LeaveOutPages
  | OrderPages
  | MovePages
  | MovePagesTo
  | MovePageBy
  | ReverseOrder
  | SortByTimeTaken
  | DuplicatePages
  | SplitSpread
  | SendPages;

/**
 * What a command comes to, from what is so when it is written.
 * @param handIn - the command's hand-in; null before it is made
 * @returns null where there is nothing to change, or the hand-in is not there
 */
export function planCommand(command: Command, handIn: HandIn | null, newId: () => string): Plan | null {
  if (command.kind === 'createHandIn') return createHandIn(command);
  if (command.kind === 'adoptHandIn') return adoptHandIn(command);
  if (handIn === null) return null;
  switch (command.kind) {
    case 'changeHandIn':
      return changeHandIn(command, handIn);
    case 'deleteHandIn':
      return deleteHandIn(command);
    case 'restoreHandIn':
      return restoreHandIn(command);
    case 'deleteHandInForGood':
      return deleteHandInForGood(command);
    case 'addPage':
      return addPage(command, handIn);
    case 'retakePage':
      return retakePage(command, handIn);
    case 'mergeShot':
      return mergeShot(command, handIn);
    case 'fillGlare':
      return fillGlare(command, handIn);
    case 'noteFound':
      return noteFound(command, handIn);
    case 'noteFindings':
      return noteFindings(command);
    case 'dropUnreadable':
      return dropUnreadable(command);
    case 'setRecipe':
      return setRecipe(command, handIn);
    case 'setLight':
      return setLight(command, handIn);
    case 'turnPages':
      return turnPages(command, handIn);
    case 'deletePages':
      return deletePages(command, handIn);
    case 'restorePages':
      return restorePages(command, handIn);
    case 'deletePagesForGood':
      return deletePagesForGood(command, handIn);
    case 'leaveOutPages':
      return leaveOutPages(command, handIn);
    case 'orderPages':
      return orderPages(command, handIn);
    case 'movePages':
      return movePages(command, handIn);
    case 'movePagesTo':
      return movePagesTo(command, handIn);
    case 'movePageBy':
      return movePageBy(command, handIn);
    case 'reverseOrder':
      return reverseOrder(command, handIn);
    case 'sortByTimeTaken':
      return sortByTimeTaken(command, handIn);
    case 'duplicatePages':
      return duplicatePages(command, handIn, newId);
    case 'splitSpread':
      return splitSpread(command, handIn, newId);
    case 'sendPages':
      return sendPages(command, handIn, newId);
  }
}

import { plural, select, t } from '@lingui/core/macro';
import { i18n } from '@lingui/core';
import { FotoplanError, toWireError, type ErrorCode, type WireError } from '../../core/errors';

/**
 * What went wrong, as a sentence that names the fix. English is told as it was written where it happened, which often knows
 * more; other languages are told by the code and its facts.
 * @param error - anything thrown, or an error kept as data
 * @param otherwise - what to say where nothing is known but that it failed
 */
export function errorText(error: unknown, otherwise: string): string {
  const known = knownError(error);
  if (known === null) return otherwise;
  const { code, message, facts } = known;
  if (code === 'SERVICE_UNREACHABLE') return unreachable(String(facts.service));
  return i18n.locale === 'en' && message !== '' ? message : (sentenceFor(code, facts) ?? otherwise);
}

function knownError(error: unknown): WireError | null {
  const wire = error instanceof FotoplanError ? toWireError(error, '') : (error as Partial<WireError> | null);
  return typeof wire?.code === 'string'
    ? { code: wire.code, message: wire.message ?? '', facts: wire.facts ?? {} }
    : null;
}

const unreachable = (service: string): string =>
  select(service, {
    office: 'The course office cannot be reached. Your file is kept here; try again when there is a connection.',
    locker: 'The locker cannot be reached. Your file is kept here; try again when there is a connection.',
    other: 'The post tray cannot be reached. Your file is kept here; try again when there is a connection.',
  });

const forbiddenWord = (what: string): string =>
  select(what, { print: 'printed', change: 'changed', copy: 'copied from', other: 'written on' });

function sentenceFor(code: ErrorCode, facts: WireError['facts']): string | null {
  const name = String(facts.name ?? facts.fileName ?? t`The file`);
  switch (code) {
    case 'PHOTO_EMPTY':
      return t`“${name}” is empty. Copy it from the phone again.`;
    case 'PHOTO_NOT_A_PHOTO':
      return t`“${name}” is not a photo that can be opened. Save it as a JPEG and add that.`;
    case 'PHOTO_IS_PDF':
      return t`“${name}” is a PDF. Add it as a PDF, or take photos of its pages.`;
    case 'PDF_UNREADABLE':
      return t`“${name}” is a PDF that cannot be opened: it is damaged, or locked with a password. Save it again without one and add that.`;
    case 'PDF_FORBIDS': {
      const list = new Intl.ListFormat(i18n.locale, { type: 'disjunction' }).format(
        String(facts.forbids).split(' ').map(forbiddenWord),
      );
      return t`The owner of “${name}” does not want it to be ${{ list }}. Your file takes its pages as they are, and forbids nothing.`;
    }
    case 'PHOTO_CUT_SHORT':
      return t`“${name}” is incomplete. Copy it from the phone again.`;
    case 'PHOTO_TOO_SMALL':
      return t`“${name}” is too small to be read. Use the full-size photo.`;
    case 'PHOTO_TOO_LARGE':
      return t`“${name}” is too large. Save it smaller and add it again.`;
    case 'PHOTO_UNREADABLE':
      return t`“${name}” is damaged inside. Copy it from the phone again, or shoot the page again.`;
    case 'PHOTO_GONE':
      return t`“${name}” cannot be read from where it is. Copy it to this device first.`;
    case 'PHOTO_TWICE':
      return t`“${name}” is page ${{ page: facts.page ?? 1 }} already. It was not added again.`;
    case 'FOLDER_LOST':
      return t`The folder “${name}” is gone, or may no longer be written to. Choose a folder again.`;
    case 'PHOTOS_OUT_OF_ORDER':
      return t`The photos just added were taken in another order. The first taken is “${name}”.`;
    case 'ZIP_UNREADABLE':
      return t`“${name}” is a zip that is damaged or incomplete. Copy it here again.`;
    case 'ZIP_IS_EXPORT':
      return t`“${name}” holds hand-ins that were exported. Import it in the settings.`;
    case 'NO_PHOTOS_INSIDE':
      return t`There is no photo and no PDF in “${name}”.`;
    case 'FILES_LEFT_OUT': {
      const first = String(facts.first ?? '');
      return plural(
        { count: Number(facts.count ?? 1) },
        {
          one: `# file in “${name}” was left out, as it is no photo and no PDF: ${first}`,
          other: `# files in “${name}” were left out, as they are no photos and no PDFs: ${first} and others`,
        },
      );
    }
    case 'OUTLINE_DEGENERATE':
      return t`These corners make no page. Move them apart.`;
    case 'RECIPE_INVALID':
      return t`This page was made by another version of Fotoplan. Reload to get the newest.`;
    case 'NO_PAGES':
      return t`There is no page to bind. Add photos first.`;
    case 'SECOND_SHOT_UNLIKE':
      return t`The second photo does not show the same page. Shoot the whole page again, from a little further to the side.`;
    case 'SECOND_SHOT_SHINES':
      return t`The second photo shines at the same place. Move further to the side, or away from the lamp, and shoot once more.`;
    case 'BUNDLE_INVALID':
      return t`This zip was not exported from Fotoplan, or it is damaged. Export the hand-ins once more.`;
    case 'FILE_TOO_LARGE':
      return facts.page === undefined
        ? t`The file is larger than the limit allows, if it is to stay readable. Leave pages out, or raise the limit.`
        : t`Page ${{ number: Number(facts.page) + 1 }} alone is larger than the limit allows, if it is to stay readable. Leave it out, or raise the limit.`;
    case 'CANCELLED':
      return t`This was stopped. Nothing was changed.`;
    case 'WORKER_LOST':
      return t`The device ran short of memory. Close other tabs and try again.`;
    case 'NOT_SIGNED_IN':
      return t`You are not signed in there. Sign in, then try again.`;
    case 'SIGN_IN_WRONG':
      return t`Number and PIN do not belong together. Look at your student card and try again.`;
    case 'OFFICE_BUSY':
      return t`The course office does not answer. Your file is kept here; try again in a few minutes.`;
    case 'OFFICE_REFUSED':
      return t`The course office did not take this. Look at what the assignment asks for, then hand in again.`;
    case 'TOO_MANY_TRIES':
      return t`Too many tries. Wait a while, then try again.`;
    case 'NAME_TAKEN':
      return t`There is a file with this name already. Replace it, or keep both.`;
    case 'SCREEN_CUT_OFF':
      return t`This device was unlinked. Start afresh here, or link it again.`;
    case 'LINK_CODE_WRONG':
      return t`This code has expired, or was mistyped. Ask the other screen for a new one.`;
    case 'RECOVERY_CODE_WRONG':
      return t`These words open nothing. Check each against the paper; a newer code makes an older one void.`;
    case 'QUOTA_FULL':
      return t`Your room on the server is full. Export old hand-ins as a zip, then delete them.`;
    case 'SERVER_FULL':
      return t`The server has no room left. This stays on this device and is sent again by itself.`;
    case 'STORE_UNREACHABLE':
      return t`The server cannot reach its store for photos and files. This stays on this device and is sent again by itself.`;
    case 'NOT_FOUND':
      return t`This is not there any more.`;
    case 'HASH_MISMATCH':
      return t`The file changed on its way. It is sent again by itself.`;
    case 'ORIGINAL_MISSING':
      return t`The photo of this page has not arrived yet. It is sent again by itself.`;
    case 'OFFLINE':
      return t`No connection. Everything is kept on this device and goes up later.`;
    case 'STORAGE_FULL':
      return t`This device has no room left for Fotoplan. Free some space (Settings, Space on this device), then do this again.`;
    case 'STORAGE_PRIVATE':
      return t`This private window keeps nothing. Open Fotoplan in a normal window.`;
    case 'STORAGE_BLOCKED':
      return t`This browser does not let this site keep anything. Allow site data for this address, then reload.`;
    case 'STORAGE_FAILED':
      return t`The browser could not write to this device. Reload, then do this again; what was saved before is still here.`;
    case 'STORAGE_HELD':
      return t`Another tab has what is kept on this device open. Close or reload that tab, then try again.`;
    case 'ANSWER_UNREADABLE':
      return t`Something on the way answered in place of the server. Check that this network lets you through.`;
    // what cannot be told better than by what was being done
    case 'BODY_INVALID':
    case 'INTERNAL':
    case 'SERVICE_UNREACHABLE':
      return null;
  }
}

/** Whether this device can hand whole files to its own share sheet. */
export const canShare = (files: readonly File[]): boolean =>
  typeof navigator.share === 'function' &&
  typeof navigator.canShare === 'function' &&
  navigator.canShare({ files: [...files] });

/** The system's share sheet, with the files themselves and never a link. */
export async function shareFile(files: readonly File[], title: string): Promise<void> {
  // closing the sheet again is no fault
  await navigator.share({ files: [...files], title }).catch(() => undefined);
}

/** Whether this browser can put pictures into the clipboard, at this address. */
export const canCopyPictures = (): boolean =>
  'ClipboardItem' in globalThis && typeof (navigator as Partial<Navigator>).clipboard?.write === 'function';

/**
 * Puts a PNG into the clipboard. Must be called at a press, before anything is awaited: the picture may still be being made.
 * @throws DOMException where the browser does not allow it
 */
export const copyPicture = (picture: Promise<Blob>): Promise<void> =>
  navigator.clipboard.write([new ClipboardItem({ 'image/png': picture })]);

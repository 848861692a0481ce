/** What the picker offers; contents are checked again, whatever the name says. */
const ACCEPT = 'image/jpeg,image/png,image/webp,image/heic,image/heif,.heic,.heif,image/tiff,.tif,.tiff,application/pdf,.pdf';

/**
 * Opens the device's own picker and gives the files in the order chosen; none when it is closed.
 * @param from - camera opens the phone's camera for one photo where there is one
 */
export function choosePhotos(from: 'gallery' | 'camera'): Promise<File[]> {
  return new Promise((resolve) => {
    const input = document.createElement('input');
    input.type = 'file';
    input.accept = ACCEPT;
    if (from === 'camera') input.setAttribute('capture', 'environment');
    else input.multiple = true;
    input.style.display = 'none';
    document.body.append(input);
    const done = (): void => {
      resolve(Array.from(input.files ?? []));
      input.remove();
    };
    input.addEventListener('change', done, { once: true });
    input.addEventListener('cancel', done, { once: true });
    input.click();
  });
}

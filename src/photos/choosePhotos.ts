import { chooseFiles } from '../files/chooseFiles';

/** What the picker offers; contents are checked again, whatever the name says. */
const ACCEPT =
  'image/jpeg,image/png,image/webp,image/avif,image/gif,image/heic,image/heif,.heic,.heif,image/jxl,.jxl,image/bmp,.bmp,image/tiff,.tif,.tiff,application/pdf,.pdf,application/zip,.zip';

/**
 * @param from - camera opens the phone's camera for one photo where there is one
 * @param multiple - whether several may be chosen from the gallery
 */
export const choosePhotos = (from: 'gallery' | 'camera', multiple = true): Promise<File[]> =>
  chooseFiles({ accept: ACCEPT, multiple: multiple && from === 'gallery', camera: from === 'camera' });

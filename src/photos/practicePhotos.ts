import { FotoplanError } from '../../core/errors';
import type { ApiClient } from '../data/apiClient';

const HOW_MANY = 3;

/** A few of the photos that ship with the demo, as files; none where it has none. */
export async function fetchPracticePhotos(api: ApiClient): Promise<File[]> {
  const photos = (await api.practicePhotos()).slice(-HOW_MANY);
  return Promise.all(
    photos.map(async ({ name, url }) => {
      const response = await fetch(url);
      if (!response.ok)
        throw new FotoplanError('NOT_FOUND', 'The practice photos are not here. Use photos of your own.');
      return new File([await response.blob()], name, { type: 'image/jpeg' });
    }),
  );
}

import { FotoplanError } from '../../core/errors';
import { services } from '../stores/services';

const HOW_MANY = 3;

/** A few of the photos that ship with the demo, as files; none where it has none. */
export async function fetchPracticePhotos(): Promise<File[]> {
  const { api } = await services();
  const photos = (await api.practicePhotos()).slice(-HOW_MANY);
  return Promise.all(
    photos.map(async ({ name, url }) => {
      const response = await fetch(url);
      if (!response.ok) throw new FotoplanError('NOT_FOUND', 'The practice photos are not here. Use photos of your own.');
      return new File([await response.blob()], name, { type: 'image/jpeg' });
    }),
  );
}

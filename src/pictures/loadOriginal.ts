import { services } from '../stores/services';

/** The photo's bytes from this device, or fetched once and kept. */
export async function loadOriginal(originalId: string, fileName: string): Promise<Blob> {
  const { db, api } = await services();
  const kept = await db.get('originals', originalId);
  if (kept !== undefined) return kept.blob;
  const blob = await api.fetchOriginal(originalId);
  // a full device still shows the page; it is then fetched again next time
  await db.put('originals', { id: originalId, fileName, blob }).catch(() => undefined);
  return blob;
}

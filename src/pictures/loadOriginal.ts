import type { Page } from '../../core/handIn/handIn';
import { services } from '../stores/services';
import type { OriginalSource } from '../workers/pageWorkerProtocol';

/** A page's original from this device, or fetched once and kept, as a worker needs it. */
export async function loadOriginal({ originalId, fileName, pdfPage }: Pick<Page, 'originalId' | 'fileName' | 'pdfPage'>): Promise<OriginalSource> {
  const { db, api } = await services();
  const kept = await db.get('originals', originalId);
  if (kept !== undefined) return { originalId, fileName, pdfPage, blob: kept.blob };
  const blob = await api.fetchOriginal(originalId);
  // a full device still shows the page; it is then fetched again next time
  await db.put('originals', { id: originalId, fileName, blob }).catch(() => undefined);
  return { originalId, fileName, pdfPage, blob };
}

import { createPageWorkerClient } from './pageWorkerClient';

const spawn = (): Worker => new Worker(new URL('./pageWorker', window.location.href));

/** One worker answers the eye (previews), the other does the long work (new photos, binding), so neither waits for the other. */
export const previewWorker = createPageWorkerClient(spawn);
export const longWorker = createPageWorkerClient(spawn);
/** Helps to bind, so that a second core has work too. */
export const secondWorker = createPageWorkerClient(spawn);

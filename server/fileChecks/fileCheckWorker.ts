import { toWireError } from '../../core/errors';
import { createCollector } from '../threads';
import type { CheckAnswer, CheckTask } from './fileCheckPool';
import { inlineFileChecks } from './fileChecks';

const collect = createCollector();

/** A thread of the pool: what it throws would lose its class on the way. */
export default async function check({ kind, bytes, name, begun }: CheckTask): Promise<CheckAnswer> {
  Atomics.store(begun, 0, 1);
  try {
    return {
      ok: true,
      value: kind === 'photo' ? await inlineFileChecks.photo(bytes, name) : await inlineFileChecks.pdfPages(bytes),
    };
  } catch (error) {
    return { ok: false, error: toWireError(error, 'The file could not be looked into.') };
  } finally {
    collect(bytes.byteLength);
  }
}

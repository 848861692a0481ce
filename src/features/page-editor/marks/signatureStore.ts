import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import type { Point } from '../../../../core/imaging/geometry/point';

/** A signature drawn once: strokes in shares of a box three times as wide as high. Kept on this device only. */
interface Signature {
  readonly strokes: readonly (readonly Point[])[];
}

export const SIGNATURE_ASPECT = 3;

export const useSignatureStore = create<Signature>()(
  persist((): Signature => ({ strokes: [] }), { name: 'fotoplan-signature', version: 1 }),
);

export const keepSignature = (strokes: Signature['strokes']): void => {
  useSignatureStore.setState({ strokes });
};

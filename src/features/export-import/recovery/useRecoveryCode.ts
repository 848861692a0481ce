import { useEffect, useState } from 'react';
import { useEngine } from '../../../engine/useEngine';

/** When the recovery code that is good now was made; null where there is none, undefined until it is known. */
export function useRecoveryMadeAt(): readonly [number | null | undefined, (madeAtMs: number) => void] {
  const { api } = useEngine();
  const [madeAtMs, setMadeAtMs] = useState<number | null | undefined>(undefined);
  useEffect(() => {
    let current = true;
    // without a connection it stays unknown
    api.recovery().then(
      (view) => current && setMadeAtMs(view.madeAtMs),
      () => undefined,
    );
    return () => {
      current = false;
    };
  }, [api]);
  return [madeAtMs, setMadeAtMs];
}

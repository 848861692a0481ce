import { useEffect, useState } from 'react';

const EVERY_MS = 15_000;

/** The time, moving on while it is looked at. */
export function useNow(): number {
  const [now, setNow] = useState(Date.now);
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), EVERY_MS);
    return () => clearInterval(timer);
  }, []);
  return now;
}

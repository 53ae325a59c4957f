import { useEffect, useState } from 'react';

const restMs = 220;
/** The newest once it has stood a while. */
export function useRested<T>(newest: T): T {
  const [rested, setRested] = useState(newest);
  useEffect(() => {
    const timer = setTimeout(() => setRested(newest), restMs);
    return () => clearTimeout(timer);
  }, [newest]);
  return rested;
}

import { useEffect, useState } from 'react';

const restMs = 220;
/** The newest once it has stood a while; whether it still moves. */
export function useRested<T>(newest: T): { rested: T; moving: boolean } {
  const [rested, setRested] = useState(newest);
  useEffect(() => {
    const timer = setTimeout(() => setRested(newest), restMs);
    return () => clearTimeout(timer);
  }, [newest]);
  return { rested, moving: rested !== newest };
}

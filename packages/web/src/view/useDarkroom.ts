import { useEffect, useState } from 'react';
import { Darkroom } from './darkroom.ts';

/** A screen's own render workers, as long as it stands; null until they are there. */
export function useDarkroom(): Darkroom | null {
  // made in an effect, since workers must end with the screen
  const [darkroom, setDarkroom] = useState<Darkroom | null>(null);
  useEffect(() => {
    const d = new Darkroom();
    setDarkroom(d);
    return () => {
      setDarkroom(null);
      d.close();
    };
  }, []);
  return darkroom;
}

import { emptyLook, newStep, responseOf } from '@dyepot/core';
import { useEffect, useState } from 'react';
import { smallPicture } from '../bench/smallPicture.ts';
import type { Frame } from '../types.ts';

const response = { contrast: 1, whiteEv: 6, toe: 0 },
  shown = responseOf(response),
  bins = 64;
/** EV from middle grey of each code of a picture under the flattest response, by bisection. */
const evOf = Array.from({ length: 256 }, (_, code) => {
  const v = code / 255,
    goal = v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
  let low = -12,
    high = 8;
  for (let i = 0; i < 40; i++) {
    const middle = (low + high) / 2;
    if (shown(0.18 * 2 ** middle) < goal) low = middle;
    else high = middle;
  }
  return low;
});

/** How many pixels a frame has at each EV from middle grey, −8 to +8 in quarters; null until it is known. */
export function useLight(frame: Frame | undefined): readonly number[] | null {
  const [light, setLight] = useState<readonly number[] | null>(null);
  useEffect(() => {
    if (!frame) return undefined;
    let gone = false;
    const look = emptyLook('light'),
      neutral = newStep('neutral', 'stock');
    smallPicture(frame, { ...look, stock: { ...neutral, params: { ...neutral.params, ...response } } }).then(
      ({ rgba }) => {
        if (gone) return;
        const counts = new Array<number>(bins).fill(0);
        for (let i = 0; i < rgba.length; i += 4) {
          const ev = evOf[Math.round(0.2126 * rgba[i]! + 0.7152 * rgba[i + 1]! + 0.0722 * rgba[i + 2]!)]!,
            bin = Math.floor((ev + 8) * 4);
          if (bin >= 0 && bin < bins) counts[bin]!++;
        }
        setLight(counts);
      },
      () => {},
    );
    return () => {
      gone = true;
    };
  }, [frame]);
  return light;
}

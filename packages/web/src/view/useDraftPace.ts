import { useRef, useState } from 'react';

/** For each coarseness: what a draft may take, in milliseconds, before drafts are made coarser, and what it has to fall below for finer ones. */
const limits = [
  { slow: 33, quick: 0 },
  { slow: 28, quick: 10 },
  { slow: Infinity, quick: 8 },
];
let usualDrop = 0;
/** How many levels below the picture a draft is drawn, from how long drafts take on this machine; 0 is full size. */
export function useDraftPace(): [number, (ms: number) => void] {
  const [drop, setDrop] = useState(usualDrop),
    mean = useRef({ of: 0, count: 0 });
  const paced = (ms: number): void => {
    const m = mean.current,
      { slow, quick } = limits[drop]!;
    m.of = m.count === 0 ? ms : m.of * 0.7 + ms * 0.3;
    const next = ++m.count < 3 ? drop : m.of > slow ? drop + 1 : m.of < quick ? drop - 1 : drop;
    if (next !== drop) {
      mean.current = { of: 0, count: 0 };
      usualDrop = next;
      setDrop(next);
    }
  };
  return [drop, paced];
}

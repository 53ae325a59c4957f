import { useRef, useState } from 'react';

/** What a draft may take, in milliseconds, before drafts are made coarser; and what it has to fall below for finer ones. */
const draftLimits = { slow: 28, quick: 8 };
let usualDrop = 1;
/** How many levels below the picture a draft is drawn, from how long drafts take on this machine. */
export function useDraftPace(): [number, (ms: number) => void] {
  const [drop, setDrop] = useState(usualDrop),
    mean = useRef({ of: 0, count: 0 });
  const paced = (ms: number): void => {
    const m = mean.current;
    m.of = m.count === 0 ? ms : m.of * 0.7 + ms * 0.3;
    const next = ++m.count < 3 ? drop : drop === 1 && m.of > draftLimits.slow ? 2 : drop === 2 && m.of < draftLimits.quick ? 1 : drop;
    if (next !== drop) {
      mean.current = { of: 0, count: 0 };
      usualDrop = next;
      setDrop(next);
    }
  };
  return [drop, paced];
}

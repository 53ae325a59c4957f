import { createContext, useContext, useEffect, useMemo, useState } from 'react';
import { api } from '../api.ts';
import type { Shoot } from '../types.ts';
import './marks.css';

/** How far frames are off the anchors of their lights under the shoot's look (ΔE), as far as that is known. */
export interface EvenMarks {
  tolerance: number;
  off: Record<number, number>;
}
const marksApi = api.injectEndpoints({
  endpoints: (build) => ({
    evenMarks: build.query<EvenMarks, { id: number; stamp: string }>({
      query: ({ id }) => `/shoots/${id}/even`,
      providesTags: (_r, _e, { id }) => [{ type: 'Shoot', id }],
      keepUnusedDataFor: 0,
    }),
  }),
});
const nothingKnown: EvenMarks = { tolerance: 2, off: {} },
  Marks = createContext(nothingKnown);

/** What the evenness of frames hangs on, in a few letters: it is asked for anew once this has rested for a while. */
function stampOf({ frames, look }: Shoot): string {
  let sum = 0;
  for (const { id, light, groundStamp } of frames)
    for (const letter of `${id}${light}${groundStamp}`) sum = (Math.imul(sum, 31) + letter.charCodeAt(0)) | 0;
  return `${frames.length} ${sum} ${look?.id ?? 0} ${look?.revision ?? 0}`;
}
export function useEvenMarks(shoot: Shoot): EvenMarks {
  const stamp = useMemo(() => stampOf(shoot), [shoot]),
    [rested, setRested] = useState(stamp);
  useEffect(() => {
    const timer = setTimeout(() => setRested(stamp), 700);
    return () => clearTimeout(timer);
  }, [stamp]);
  const { data, currentData } = marksApi.useEvenMarksQuery({ id: shoot.id, stamp: rested });
  return currentData ?? data ?? nothingKnown;
}
export const EvenMarksOf = Marks.Provider;
export const useMarks = (): EvenMarks => useContext(Marks);

/** On a frame's small picture: that it is not even with its light. */
export function EvenMark({ id }: { id: number }): React.JSX.Element | null {
  const { tolerance, off } = useMarks(),
    by = off[id];
  if (by === undefined || by <= tolerance) return null;
  return (
    <small className="even-mark" title={`${by.toFixed(1)} ΔE off the anchor of its light`}>
      ▲{by.toFixed(1)}
      <span className="unseen"> off its light</span>
    </small>
  );
}

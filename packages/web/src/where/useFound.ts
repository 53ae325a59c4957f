import type { Region } from '@dyepot/core';
import { useFoundQuery } from '../bench/ownApi.ts';
import type { Frame } from '../types.ts';

const words: Readonly<Record<Region, string>> = { sky: 'no sky', foliage: 'no foliage', skin: 'no skin', lights: 'no lights' };

/** What of some regions is not on a frame, in words; empty where all are, or it is not known yet. */
export function useMissing(frame: Frame, wanted: string): string {
  const { data } = useFoundQuery({ id: frame.id, stamp: frame.groundStamp }, { skip: wanted === '' });
  if (wanted === '' || !data) return '';
  return (wanted.split(' ') as Region[])
    .filter((w) => data[w].sure < 0.5)
    .map((w) => words[w])
    .join(', ');
}
/** How sure a region is on a frame, in words. */
export function useSure(frame: Frame | null, what: Region | null): string {
  const { data } = useFoundQuery({ id: frame?.id ?? 0, stamp: frame?.groundStamp ?? '' }, { skip: !frame || !what });
  if (!data || !what) return '';
  const { sure } = data[what];
  return sure < 0.5 ? 'none on this frame' : `sure ${sure.toFixed(2)}`;
}

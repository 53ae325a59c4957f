import { plainGroundwork, renditionLook, type Groundwork, type Look, type Rendition } from '@dyepot/core';
import { useMemo } from 'react';
import type { Treatment } from '../view/frameJobs.ts';

/** What "before" is: the frame as decoded, its groundwork without the look, or a snapshot by its place. */
export type Before = 'plain' | 'ground' | number;

/** What "before" shows, cut and turned as the picture is. */
export function useBefore(
  before: Before,
  {
    look,
    shown,
    rendition,
    snapshots,
  }: { look: Look | null; shown: Groundwork; rendition: Rendition; snapshots: readonly { name: string; ground: Groundwork }[] },
): Treatment & { words: string } {
  const snapshot = typeof before === 'number' ? snapshots[before] : undefined,
    ground = before === 'ground' ? shown : { ...(snapshot?.ground ?? plainGroundwork), geometry: shown.geometry },
    key = JSON.stringify(ground),
    words = before === 'plain' ? 'as decoded' : before === 'ground' ? 'groundwork only' : (snapshot?.name ?? 'before'),
    under = before === 'ground' ? renditionLook(rendition) : look;
  // made anew only where it says something else
  return useMemo(() => ({ look: under, ground: JSON.parse(key) as Groundwork, words }), [under, key, words]);
}

import { messageOf } from '../api.ts';
import { useReadSidecarsMutation, useWriteSidecarsMutation, type Said } from '../evenness/evennessApi.ts';
import { complain, tell } from '../kit/notices.tsx';
import type { Frame } from '../types.ts';

const counted = (n: number, one: string, many: string): string => (n === 1 ? `one ${one}` : `${n} ${many}`);
/** The first of what could not be done, and how many more there are. */
function troubled(troubles: readonly string[]): void {
  if (troubles.length > 0) complain(troubles.length === 1 ? troubles[0]! : `${troubles[0]!}; and ${troubles.length - 1} more like it`);
}

/** Ratings and marks to and from the XMP files beside the raws; what is taken from there can be undone like any. */
export function useSidecars(
  say: (said: Said[], words: string) => void,
): (way: 'read' | 'write', frames: readonly Frame[]) => Promise<void> {
  const [write] = useWriteSidecarsMutation(),
    [read] = useReadSidecarsMutation();
  return async (way, frames) => {
    const ids = frames.map((f) => f.id);
    try {
      if (way === 'write') {
        const { done, troubles } = await write(ids).unwrap();
        if (done > 0) tell(`${counted(done, 'sidecar', 'sidecars')} written`);
        troubled(troubles);
        return;
      }
      const { said, troubles } = await read(ids).unwrap();
      if (said.length > 0) say(said, `${counted(said.length, 'frame', 'frames')} rated and marked as the sidecars say`);
      else if (troubles.length === 0) tell('The sidecars say what the frames do');
      troubled(troubles);
    } catch (e) {
      complain(messageOf(e));
    }
  };
}

import type { Look, Mask } from '@dyepot/core';
import type { Wet } from './benchState.ts';
import { stands } from './ownChain.ts';

let last: { chain: Look; wet: Wet; shown: Look } | null = null;
/** A chain with what is being painted on it; the same object for the same two. */
export function withWet(chain: Look, wet: Wet | null): Look {
  if (!wet || !stands(chain, wet.id)) return chain;
  if (last?.chain !== chain || last.wet !== wet) {
    const laid = <T extends { id: string; mask: Mask | null }>(holders: readonly T[]): T[] =>
      holders.map((h) => (h.id === wet.id ? { ...h, mask: wet.mask } : h));
    last = { chain, wet, shown: { ...chain, scene: laid(chain.scene), print: laid(chain.print), skeins: laid(chain.skeins) } };
  }
  return last.shown;
}

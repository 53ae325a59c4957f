import { renditions } from '@dyepot/core';
import type { Start } from '../fitting.ts';

export const neutralStarts: readonly Start[] = Object.values(renditions).map(({ name, params: { contrast, whiteEv, toe } }) => ({
  name,
  values: { contrast, whiteEv, toe },
}));

import type { ViewState } from './layout.ts';

/** What the readouts' switch does: takes the limit away, begins to draw one, or sets one in the middle, for the keys to move. */
export const limitSwitched = ({ limit, limiting }: Pick<ViewState, 'limit' | 'limiting'>, byKey: boolean): Partial<ViewState> =>
  limit
    ? { limit: null, limiting: false }
    : byKey
      ? { limit: { x: 0.375, y: 0.375, width: 0.25, height: 0.25 }, limiting: false }
      : { limiting: !limiting };

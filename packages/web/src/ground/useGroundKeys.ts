import { useShortcut } from '../kit/useShortcut.ts';
import { useAppDispatch, useAppSelector } from '../store.ts';
import { groundAct } from './groundSlice.ts';

/** Keys of the Ground: undo and redo, Page up and down through the frames, P to pick a neutral, K for what clips, Escape. */
export function useGroundKeys({
  onStep,
  onPick,
  onLeave,
}: {
  onStep: (way: 1 | -1) => void;
  onPick: () => void;
  onLeave: () => void;
}): void {
  const dispatch = useAppDispatch(),
    clipping = useAppSelector((s) => s.ground.clipping);
  useShortcut('mod+z', () => dispatch(groundAct.undone()), { preventDefault: true });
  useShortcut('mod+shift+z, mod+y', () => dispatch(groundAct.redone()), { preventDefault: true });
  useShortcut('pageup', () => onStep(-1), { preventDefault: true });
  useShortcut('pagedown', () => onStep(1), { preventDefault: true });
  useShortcut('p', () => {
    dispatch(groundAct.partChosen('light'));
    onPick();
  });
  useShortcut('escape', onLeave);
  useShortcut('k', () => {
    const on = !(clipping.black && clipping.white);
    dispatch(groundAct.set({ clipping: { black: on, white: on } }));
  });
}

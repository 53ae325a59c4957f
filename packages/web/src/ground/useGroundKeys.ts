import { useShortcut } from '../kit/useShortcut.ts';
import { useAppDispatch, useAppSelector } from '../store.ts';
import { groundAct } from './groundSlice.ts';

/** Keys of the Ground: undo and redo, Page up and down through the frames, P to pick a neutral, K for what clips, Escape. */
export function useGroundKeys({
  onUndo,
  onRedo,
  onStep,
  onPick,
  onLeave,
}: {
  onUndo: () => void;
  onRedo: () => void;
  onStep: (way: 1 | -1) => void;
  onPick: () => void;
  onLeave: () => void;
}): void {
  const dispatch = useAppDispatch(),
    clipping = useAppSelector((s) => s.ground.clipping);
  useShortcut('mod+z', onUndo, { preventDefault: true });
  useShortcut('mod+shift+z, mod+y', onRedo, { preventDefault: true });
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

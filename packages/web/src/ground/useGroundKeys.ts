import { useHotkeys } from 'react-hotkeys-hook';
import { useAppDispatch, useAppSelector } from '../store.ts';
import { keys } from '../view/ViewTools.tsx';
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
  useHotkeys('mod+z', () => dispatch(groundAct.undone()), { ...keys, preventDefault: true });
  useHotkeys('mod+shift+z, mod+y', () => dispatch(groundAct.redone()), { ...keys, preventDefault: true });
  useHotkeys('pageup', () => onStep(-1), { ...keys, preventDefault: true }, [onStep]);
  useHotkeys('pagedown', () => onStep(1), { ...keys, preventDefault: true }, [onStep]);
  useHotkeys(
    'p',
    () => {
      dispatch(groundAct.partChosen('light'));
      onPick();
    },
    keys,
    [onPick],
  );
  useHotkeys('escape', onLeave, [onLeave]);
  useHotkeys(
    'k',
    () => {
      const on = !(clipping.black && clipping.white);
      dispatch(groundAct.set({ clipping: { black: on, white: on } }));
    },
    keys,
    [clipping],
  );
}

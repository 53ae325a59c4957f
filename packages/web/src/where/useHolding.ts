import { act } from '../bench/benchSlice.ts';
import { useAppDispatch, useAppSelector } from '../store.ts';

const arrows = ['ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown'];
/** For what changes a place: while it is held by pointer or arrow, the place is shown, where one wants it only then. */
export function useHolding(): {
  onPointerDownCapture?: () => void;
  onKeyDownCapture?: (e: React.KeyboardEvent) => void;
} {
  const dispatch = useAppDispatch(),
    wanted = useAppSelector((s) => s.bench.showPlace === 'held');
  if (!wanted) return {};
  const until = (...ends: string[]): void => {
    const release = (e: Event): void => {
      // of the window, not of what had the focus in it
      if (e.type === 'blur' && e.target !== window) return;
      for (const end of ends) window.removeEventListener(end, release, true);
      dispatch(act.placeShown({ placeHeld: false }));
    };
    for (const end of ends) window.addEventListener(end, release, true);
    dispatch(act.placeShown({ placeHeld: true }));
  };
  return {
    onPointerDownCapture: () => until('pointerup', 'pointercancel', 'blur'),
    onKeyDownCapture: (e) => {
      if (arrows.includes(e.key) && !e.repeat) until('keyup', 'blur');
    },
  };
}

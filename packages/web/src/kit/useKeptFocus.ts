import { useLayoutEffect, useRef, type RefObject } from 'react';

/** Keeps the focus on an element that is made anew when `swapped` turns true: give what this returns to both as their ref. */
export function useKeptFocus(swapped: boolean): RefObject<HTMLButtonElement | null> {
  const node = useRef<HTMLButtonElement>(null),
    had = useRef(false);
  if (swapped && node.current && document.activeElement === node.current) had.current = true;
  useLayoutEffect(() => {
    if (!swapped || !had.current) return;
    had.current = false;
    node.current?.focus();
  }, [swapped]);
  return node;
}

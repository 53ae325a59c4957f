import { useLayoutEffect, useState, type RefObject } from 'react';

/** The inner size of an element, followed as it changes. */
export function useSizeOf(element: RefObject<HTMLElement | null>): { width: number; height: number } {
  const [size, setSize] = useState({ width: 0, height: 0 });
  useLayoutEffect(() => {
    const node = element.current!,
      measure = (): void => setSize({ width: node.clientWidth, height: node.clientHeight });
    const observer = new ResizeObserver(measure);
    observer.observe(node);
    measure();
    return () => observer.disconnect();
  }, []);
  return size;
}

import { useLayoutEffect, useRef } from 'react';
import { isStop, makeStop } from './oneStop.ts';

const cell = '.cell';
type Way = 'left' | 'right' | 'up' | 'down';
/** The nearest cell in a direction, by where they lie. */
function neighbour(all: readonly HTMLElement[], from: HTMLElement, way: Way): HTMLElement | undefined {
  const here = from.getBoundingClientRect(),
    along = way === 'left' || way === 'right',
    ahead = (r: DOMRect): number =>
      way === 'right' ? r.left - here.left : way === 'left' ? here.left - r.left : way === 'down' ? r.top - here.top : here.top - r.top,
    aside = (r: DOMRect): number => Math.abs(along ? r.top - here.top : r.left - here.left);
  return all
    .filter((e) => e !== from)
    .map((e) => ({ e, r: e.getBoundingClientRect() }))
    .filter(({ r }) => ahead(r) > 4 && aside(r) < 8)
    .sort((a, b) => ahead(a.r) - ahead(b.r))[0]?.e;
}
const ways: Record<string, Way> = { ArrowLeft: 'left', ArrowRight: 'right', ArrowUp: 'up', ArrowDown: 'down' };

/**
 * Numbers in a row or a table as one stop for Tab. Arrows nudge the number that has the focus; up and down go to the next row
 * where there is one; with Control any arrow goes to the next number.
 */
export function Cells({ className, children }: { className?: string; children: React.ReactNode }): React.JSX.Element {
  const own = useRef<HTMLDivElement>(null),
    all = (): HTMLElement[] => [...(own.current?.querySelectorAll<HTMLElement>(cell) ?? [])],
    settle = (at: HTMLElement | undefined): void => {
      makeStop(all(), at);
    };
  useLayoutEffect(() => {
    const cells = all(),
      stops = cells.filter(isStop);
    settle(cells.find((e) => e === document.activeElement) ?? (stops.length === 1 ? stops[0] : undefined) ?? cells[0]);
  });
  return (
    <div
      ref={own}
      className={className}
      onFocus={(e) => {
        if ((e.target as HTMLElement).matches(cell)) settle(e.target as HTMLElement);
      }}
      onKeyDownCapture={(e) => {
        const target = e.target as HTMLElement,
          way = ways[e.key];
        if (!way || !target.matches(`${cell}[role=slider]`) || e.altKey || e.shiftKey) return;
        const jumps = e.ctrlKey || way === 'up' || way === 'down',
          next = jumps ? neighbour(all(), target, way) : undefined;
        if (!next) return;
        e.preventDefault();
        e.stopPropagation();
        next.focus();
      }}
    >
      {children}
    </div>
  );
}

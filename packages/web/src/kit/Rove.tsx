import { useLayoutEffect, useRef } from 'react';
import { isStop, makeStop } from './oneStop.ts';

const stops = 'button:not(:disabled, .number-value), a[href], [role=tab], select';

interface Props extends React.HTMLAttributes<HTMLElement> {
  as?: 'div' | 'nav' | 'ul' | 'section' | 'aside';
  /** what takes the focus inside */
  of?: string;
  /** arrows that go on: along the line, or along it and across */
  ways?: 'line' | 'both';
  ref?: React.Ref<HTMLElement>;
}

/** Things that are one stop for Tab, with arrows, Home and End from one to the next (WAI-ARIA Authoring Practices, roving tabindex). */
export function Rove({ as: Tag = 'div', of = stops, ways = 'both', onKeyDown, onFocus, children, ref, ...rest }: Props): React.JSX.Element {
  const own = useRef<HTMLElement>(null);
  const every = (): HTMLElement[] => [...(own.current?.querySelectorAll<HTMLElement>(of) ?? [])],
    seen = (): HTMLElement[] => every().filter((e) => e.checkVisibility?.() ?? true),
    settle = (at: HTMLElement | undefined): void => makeStop(every(), at);
  useLayoutEffect(() => {
    const pick = (from: HTMLElement[]): HTMLElement | undefined => {
      const stops = from.filter(isStop);
      return (
        from.find((e) => e === document.activeElement) ??
        from.find((e) => e.matches('[aria-selected=true], [aria-checked=true], [aria-current=true], [aria-current=page]')) ??
        (stops.length === 1 ? stops[0] : undefined)
      );
    };
    // what can be seen is only asked for where the stop moves: it lays the page out
    const all = every(),
      stays = pick(all);
    if (stays && isStop(stays) && all.filter(isStop).length === 1) return;
    const here = seen();
    settle(pick(here) ?? here[0]);
  });
  return (
    <Tag
      {...rest}
      ref={(node: HTMLElement | null) => {
        own.current = node;
        if (typeof ref === 'function') ref(node);
        else if (ref) (ref as React.RefObject<HTMLElement | null>).current = node;
      }}
      onFocus={(e: React.FocusEvent<HTMLElement>) => {
        onFocus?.(e);
        const at = (e.target as HTMLElement).closest<HTMLElement>(of);
        if (at && own.current?.contains(at)) settle(at);
      }}
      onKeyDown={(e: React.KeyboardEvent<HTMLElement>) => {
        onKeyDown?.(e);
        if (e.defaultPrevented || e.ctrlKey || e.metaKey || e.altKey || e.shiftKey) return;
        const target = e.target as HTMLElement;
        if (target.matches('input, textarea, [role=slider]')) return;
        // a choice keeps up and down for itself
        if (target.matches('select') && e.key !== 'ArrowRight' && e.key !== 'ArrowLeft') return;
        const here = seen(),
          at = here.indexOf(target.closest<HTMLElement>(of) ?? target);
        if (at < 0) return;
        const on = e.key === 'ArrowRight' || (ways === 'both' && e.key === 'ArrowDown'),
          back = e.key === 'ArrowLeft' || (ways === 'both' && e.key === 'ArrowUp');
        const next = on ? at + 1 : back ? at - 1 : e.key === 'Home' ? 0 : e.key === 'End' ? here.length - 1 : null;
        if (next === null) return;
        e.preventDefault();
        e.stopPropagation();
        here[(next + here.length) % here.length]?.focus();
      }}
    >
      {children}
    </Tag>
  );
}

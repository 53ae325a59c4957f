import { useEffect, useRef, type RefObject } from 'react';
import { pinched, scaleOf, zoomAt, type Size, type ViewState } from './layout.ts';

type Point = { x: number; y: number };
interface Fingers {
  middle: Point;
  gap: number;
}

/**
 * The wheel (and a trackpad's pinch, which comes as one) and two fingers on the stage: both magnify round the place they
 * are at; fingers carry it along. `rest` is called when a second finger ends whatever the first had begun.
 */
export function useZoomGestures(
  stage: RefObject<HTMLDivElement | null>,
  picture: Size,
  size: Size,
  view: ViewState,
  density: number,
  onView: (change: Partial<ViewState>) => void,
  rest: () => void,
): void {
  const touches = useRef(new Map<number, Point>()),
    from = useRef<(Fingers & { view: ViewState }) | null>(null);
  const at = (clientX: number, clientY: number): Point => {
    const r = stage.current!.getBoundingClientRect();
    return { x: (clientX - r.left) % (size.width + 2), y: clientY - r.top };
  };
  const fingers = (): Fingers => {
    const [a, b] = [...touches.current.values()] as [Point, Point];
    return { middle: { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 }, gap: Math.max(1, Math.hypot(a.x - b.x, a.y - b.y)) };
  };
  const hands = {
      wheel: (e: WheelEvent): void => {
        e.preventDefault();
        const fit = scaleOf('fit', picture, size, density) * density,
          wanted = scaleOf(view.zoom, picture, size, density) * density * 2 ** (-e.deltaY * (e.ctrlKey ? 0.01 : 0.0025));
        if (wanted <= fit * 1.001) {
          if (view.zoom !== 'fit') onView({ zoom: 'fit' });
          return;
        }
        onView(
          zoomAt(
            picture,
            size,
            view,
            [1, 2, 4, 8].find((z) => Math.abs(wanted / z - 1) < 0.04) ?? Math.min(8, Math.max(0.05, wanted)),
            at(e.clientX, e.clientY),
            density,
          ),
        );
      },
      down: (e: PointerEvent): void => {
        if (e.pointerType !== 'touch') return;
        touches.current.set(e.pointerId, at(e.clientX, e.clientY));
        if (touches.current.size !== 2) return;
        rest();
        e.stopPropagation();
        from.current = { ...fingers(), view };
      },
      move: (e: PointerEvent): void => {
        if (!touches.current.has(e.pointerId)) return;
        touches.current.set(e.pointerId, at(e.clientX, e.clientY));
        if (!from.current) return;
        e.stopPropagation();
        onView(pinched(picture, size, from.current, fingers(), density));
      },
      up: (e: PointerEvent): void => {
        touches.current.delete(e.pointerId);
        if (touches.current.size < 2) from.current = null;
      },
    },
    now = useRef(hands);
  now.current = hands;
  // the wheel has to be refused to the page, which a passive listener may not do; fingers are looked at before anything else does
  useEffect(() => {
    const node = stage.current!,
      list: [string, (e: never) => void, AddEventListenerOptions][] = [
        ['wheel', (e: WheelEvent) => now.current.wheel(e), { passive: false }],
        ['pointerdown', (e: PointerEvent) => now.current.down(e), { capture: true }],
        ['pointermove', (e: PointerEvent) => now.current.move(e), { capture: true }],
        ['pointerup', (e: PointerEvent) => now.current.up(e), { capture: true }],
        ['pointercancel', (e: PointerEvent) => now.current.up(e), { capture: true }],
      ];
    for (const [name, listen, options] of list) node.addEventListener(name, listen as EventListener, options);
    return () => {
      for (const [name, listen, options] of list) node.removeEventListener(name, listen as EventListener, options);
    };
  }, []);
}

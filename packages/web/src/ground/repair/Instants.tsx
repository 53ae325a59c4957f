import type { Shape } from '@dyepot/core';
import { useEffect, useRef, useState } from 'react';
import type { Frame } from '../../types.ts';
import type { Placed } from '../../view/FrameView.tsx';
import { ownKernels, smoothedOver, type Smoothed } from './atOnce.ts';

interface Instant extends Smoothed {
  id: number;
  /** pixels of the canvas for each of the stage */
  scale: number;
  since: number;
}
/** How long a stand-in lies there after its repair is said to be done: the picture with it takes a moment more; and if none ever is. */
const lingerMs = 400,
  mostMs = 5000;
/** What was laid down so shortly before a repair is done waits for another. */
const youngMs = 200;
let ids = 0;

/** Places smoothed over on the screen until their repairs are done; `show` lays one down, the shape in pixels of the stage. */
export function useInstants(frame: Frame, placed: Placed): { shown: readonly Instant[]; show: (shape: Shape, stage: HTMLElement) => void } {
  const [shown, setShown] = useState<readonly Instant[]>([]),
    { box } = placed;
  useEffect(() => {
    ownKernels().catch(() => {});
  }, []);
  // what they stand for is done
  useEffect(() => {
    const before = performance.now() - youngMs,
      timer = setTimeout(() => setShown((all) => all.filter((i) => i.since > before)), lingerMs);
    return () => clearTimeout(timer);
  }, [frame.repairStamp]);
  useEffect(() => {
    if (shown.length === 0) return;
    const timer = setTimeout(() => setShown([]), mostMs);
    return () => clearTimeout(timer);
  }, [shown.length]);
  // another picture lies under them
  useEffect(() => setShown([]), [frame.id, box.left, box.top, box.width, box.height]);
  return {
    shown,
    show(shape, stage) {
      const canvas =
        stage.querySelector<HTMLCanvasElement>('canvas[data-testid=exact]:not(.hidden)') ??
        stage.querySelector<HTMLCanvasElement>('canvas[data-testid=lead]');
      if (!canvas || canvas.width === 0) return;
      const scale = canvas.width / box.width,
        long = Math.max(canvas.width, canvas.height),
        share = (p: readonly number[]): [number, number] => [(p[0]! - box.left) / box.width, (p[1]! - box.top) / box.height],
        of = (v: number): number => (v * scale) / long,
        within: Shape =
          shape.kind === 'spot'
            ? { ...shape, x: share([shape.x, shape.y])[0], y: share([shape.x, shape.y])[1], radius: of(shape.radius) }
            : shape.kind === 'line'
              ? { ...shape, points: shape.points.map(share), radius: of(shape.radius) }
              : { ...shape, points: shape.points.map((p) => [...share(p), of(p[2])] as const) };
      void ownKernels().then((k) => {
        const smoothed = smoothedOver(k, canvas, within);
        if (!smoothed) return;
        stage.dataset['smoothedAt'] = String(performance.now());
        setShown((all) => [...all, { ...smoothed, id: ++ids, scale, since: performance.now() }]);
      });
    },
  };
}
/** Where stand-ins are drawn. */
export function Instants({ shown, placed }: { shown: readonly Instant[]; placed: Placed }): React.JSX.Element {
  return (
    <>
      {shown.map((i) => (
        <Patch key={i.id} of={i} placed={placed} />
      ))}
    </>
  );
}
function Patch({ of: { x, y, picture, scale }, placed: { box } }: { of: Instant; placed: Placed }): React.JSX.Element {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => canvas.current!.getContext('2d')!.putImageData(picture, 0, 0), [picture]);
  return (
    <canvas
      ref={canvas}
      className="repair-instant"
      aria-hidden
      width={picture.width}
      height={picture.height}
      style={{ left: box.left + x / scale, top: box.top + y / scale, width: picture.width / scale, height: picture.height / scale }}
    />
  );
}

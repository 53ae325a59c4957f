import { drawingOf, plateLevels, type Look } from '@dyepot/core';
import { useRef } from 'react';
import type { Frame } from '../types.ts';
import type { Darkroom } from '../view/darkroom.ts';
import { useFrameRender } from '../view/useFrameRender.ts';

/** A frame under a look, small and live: at least so many pixels wide. */
export function Rendered({
  darkroom,
  name,
  frame,
  look,
  width,
  rank,
  worker,
}: {
  darkroom: Darkroom;
  name: string;
  frame: Frame;
  look: Look;
  width: number;
  rank: number;
  worker: readonly number[];
}): React.JSX.Element {
  const canvas = useRef<HTMLCanvasElement>(null);
  let level = plateLevels - 1;
  while (level > 0 && frame.width >> level < width * Math.min(2, window.devicePixelRatio || 1)) level--;
  const message = useFrameRender(darkroom, {
    name,
    frame,
    piece: { level, x: 0, y: 0, ...drawingOf(frame.groundwork, frame, level, null).whole },
    look,
    ground: frame.groundwork,
    rank,
    canvas,
    workers: worker,
  });
  return (
    <div className="stock-picture" style={{ aspectRatio: `${frame.output.width} / ${frame.output.height}` }}>
      <canvas ref={canvas} data-testid={name} />
      {message && <span>{message}</span>}
    </div>
  );
}

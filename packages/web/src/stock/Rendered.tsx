import { drawingOf, plateLevels, type Look } from '@dyepot/core';
import { useRef } from 'react';
import type { State } from '../store.ts';
import type { Frame } from '../types.ts';
import type { Darkroom } from '../view/darkroom.ts';
import type { Piece } from '../view/frameJobs.ts';
import { useFrameRender } from '../view/useFrameRender.ts';

/** A frame under a look, small and live: at least so many pixels wide. With `live` it follows the store at once, coarser while the hand moves. */
export function Rendered({
  darkroom,
  name,
  frame,
  look,
  width,
  rank,
  worker,
  live,
}: {
  darkroom: Darkroom;
  name: string;
  frame: Frame;
  look: Look;
  width: number;
  rank: number;
  worker: readonly number[];
  live?: (state: State) => Look;
}): React.JSX.Element {
  const canvas = useRef<HTMLCanvasElement>(null);
  let level = plateLevels - 1;
  while (level > 0 && frame.width >> level < width * Math.min(2, window.devicePixelRatio || 1)) level--;
  const whole = (at: number): Piece => ({ level: at, x: 0, y: 0, ...drawingOf(frame.groundwork, frame, at, null).whole });
  const message = useFrameRender(darkroom, {
    name,
    frame,
    piece: whole(level),
    draft: live && level + 1 < plateLevels ? whole(level + 1) : null,
    ...(live && { live: (s) => ({ look: live(s), ground: frame.groundwork }) }),
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

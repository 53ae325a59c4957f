import { outputSize, type Groundwork, type Look, type Plate } from '@dyepot/core';
import { useMemo, useRef, useState } from 'react';
import type { Frame } from '../types.ts';
import type { Darkroom } from '../view/darkroom.ts';
import type { Placed } from '../view/FrameView.tsx';
import { useFrameRender } from '../view/useFrameRender.ts';

const width = 264,
  height = 196,
  one = [1] as const;

/** The place with most detail in a small plate, as fractions of it: where neighbours differ most over a block, clipped places aside; with `corner`, far from the middle. */
export function liveliest(plate: Plate, corner = false): { x: number; y: number } {
  const block = 12,
    g = plate.width * plate.height;
  let best = 0,
    at = { x: 0.5, y: 0.5 };
  for (let y = block; y < plate.height - 2 * block; y += block)
    for (let x = block; x < plate.width - 2 * block; x += block) {
      let sum = 0;
      for (let j = 0; j < block; j++)
        for (let i = 0; i < block; i++) {
          const o = g + (y + j) * plate.width + x + i,
            v = plate.data[o]!;
          if (v > 58000) {
            sum = -1e9;
          }
          sum += Math.abs(v - plate.data[o + 1]!) + Math.abs(v - plate.data[o + plate.width]!);
        }
      if (corner) sum *= Math.hypot(x / plate.width - 0.5, y / plate.height - 0.5) ** 2;
      if (sum > best) {
        best = sum;
        at = { x: (x + block / 2) / plate.width, y: (y + block / 2) / plate.height };
      }
    }
  return at;
}

/** A window at 100 % on the liveliest place, or wherever it is dragged to over the picture. */
export function Loupe({
  darkroom,
  frame,
  look,
  ground,
  mask,
  corner,
  small,
  placed,
  shown,
}: {
  darkroom: Darkroom;
  frame: Frame;
  look: Look | null;
  ground: Groundwork;
  mask: boolean;
  corner: boolean;
  small: Plate | null;
  placed: Placed;
  shown: boolean;
}): React.JSX.Element | null {
  const canvas = useRef<HTMLCanvasElement>(null),
    [moved, setMoved] = useState<{ id: number; x: number; y: number } | null>(null),
    picture = outputSize(ground, frame),
    found = useMemo(() => (small ? liveliest(small, corner) : { x: 0.5, y: 0.5 }), [small, corner]);
  const at = moved?.id === frame.id ? moved : found,
    w = Math.min(width, picture.width),
    h = Math.min(height, picture.height),
    x = Math.round(Math.min(picture.width - w, Math.max(0, at.x * picture.width - w / 2))),
    y = Math.round(Math.min(picture.height - h, Math.max(0, at.y * picture.height - h / 2)));
  const message = useFrameRender(darkroom, {
    name: 'loupe',
    frame,
    piece: { level: 0, x, y, width: w, height: h },
    look,
    ground,
    mask,
    rank: 1,
    canvas,
    workers: one,
    wanted: shown,
  });
  if (!shown) return null;
  const { box } = placed;
  return (
    <>
      <i
        className="loupe-mark"
        style={{
          left: box.left + (x / picture.width) * box.width,
          top: box.top + (y / picture.height) * box.height,
          width: (w / picture.width) * box.width,
          height: (h / picture.height) * box.height,
        }}
        onPointerDown={(e) => {
          e.stopPropagation();
          e.currentTarget.setPointerCapture(e.pointerId);
        }}
        onPointerMove={(e) => {
          if (e.buttons !== 1) return;
          const r = e.currentTarget.parentElement!.getBoundingClientRect();
          setMoved({
            id: frame.id,
            x: Math.min(1, Math.max(0, (e.clientX - r.left - box.left) / box.width)),
            y: Math.min(1, Math.max(0, (e.clientY - r.top - box.top) / box.height)),
          });
        }}
      />
      <div className="loupe" data-testid="loupe" aria-label="Loupe at 100 %">
        <canvas ref={canvas} data-testid="loupe-picture" />
        {message ? <p>{message}</p> : <b>100 %</b>}
      </div>
    </>
  );
}

import { decodeSrgb } from '@dyepot/core';
import { useEffect, useRef } from 'react';
import type { State } from '../store.ts';
import type { Frame } from '../types.ts';
import type { Darkroom } from './darkroom.ts';
import type { Piece, Treatment } from './frameJobs.ts';
import { useFrameRender } from './useFrameRender.ts';

/** How a place is laid over the picture. */
export type PlaceShown = 'tint' | 'grey' | 'outline';
const workers = [0, 1] as const,
  shares = Uint8Array.from({ length: 256 }, (_, code) => Math.round(255 * decodeSrgb(code / 255)));

/** #rrggbb as numbers. */
const channelsOf = (colour: string): [number, number, number] =>
  [1, 3, 5].map((i) => Number.parseInt(colour.slice(i, i + 2), 16)) as [number, number, number];

/** Grey light as a tint, as it is, or as the line where it is a half. */
function lay(from: HTMLCanvasElement, to: HTMLCanvasElement, as: PlaceShown, tint: readonly [number, number, number]): void {
  const { width, height } = from;
  if (width === 0 || height === 0) return;
  const image = from.getContext('2d')!.getImageData(0, 0, width, height),
    { data } = image,
    n = width * height,
    share = new Uint8Array(n);
  for (let i = 0; i < n; i++) share[i] = shares[data[i * 4]!]!;
  const thick = Math.max(1, Math.round(Math.max(width, height) / 900));
  for (let i = 0; i < n; i++) {
    const m = share[i]!;
    if (as === 'grey') {
      data[i * 4] = data[i * 4 + 1] = data[i * 4 + 2] = m;
      data[i * 4 + 3] = 255;
      continue;
    }
    const crosses = as === 'outline' && m < 128 !== ((share[i + thick] ?? m) < 128 || (share[i + width * thick] ?? m) < 128);
    data[i * 4] = tint[0];
    data[i * 4 + 1] = tint[1];
    data[i * 4 + 2] = tint[2];
    data[i * 4 + 3] = as === 'outline' ? (crosses ? 255 : 0) : m * 0.6;
  }
  if (to.width !== width || to.height !== height) {
    to.width = width;
    to.height = height;
  }
  to.getContext('2d')!.putImageData(image, 0, 0);
}

/** Where a step acts, over the picture: the engine's own mask at the picture's size. */
export function PlaceMarks({
  darkroom,
  frame,
  piece,
  place: { id, as, tint },
  treatment,
  live,
  style,
}: {
  darkroom: Darkroom;
  frame: Frame;
  piece: Piece | null;
  place: { id: string; as: PlaceShown; tint: string };
  treatment: Treatment;
  live: (s: State) => Treatment;
  style: React.CSSProperties;
}): React.JSX.Element {
  const drawn = useRef<HTMLCanvasElement>(null),
    shown = useRef<HTMLCanvasElement>(null),
    frameAsked = useRef(0);
  const laid = (): void => {
    if (drawn.current?.dataset['ready'] && shown.current) lay(drawn.current, shown.current, as, channelsOf(tint));
  };
  // of another colour the same place is not asked for again
  useEffect(laid, [as, tint]);
  useEffect(() => () => cancelAnimationFrame(frameAsked.current), []);
  useFrameRender(darkroom, {
    name: 'place',
    frame,
    piece,
    ...treatment,
    place: id,
    rank: 2,
    canvas: drawn,
    workers,
    live: (s) => ({ ...live(s), place: id }),
    onPainted: laid,
    onDraft: laid,
    onPart: () => {
      cancelAnimationFrame(frameAsked.current);
      frameAsked.current = requestAnimationFrame(laid);
    },
  });
  return (
    <>
      <canvas ref={drawn} hidden />
      <canvas ref={shown} data-testid="place" style={{ ...style, pointerEvents: 'none' }} />
    </>
  );
}

import type { Readouts } from '@dyepot/core';
import { useEffect, useRef, useState, type RefObject } from 'react';
import { store, type State } from '../store.ts';
import { lateRank, type Darkroom, type Print } from './darkroom.ts';
import type { Piece, Treatment } from './frameJobs.ts';
import { openPainter, type Easel, type Painter, type Wish } from './painter.ts';

interface Options extends Treatment, Partial<Pick<Wish, 'draft' | 'fine' | 'readout' | 'limit'>> {
  name: string;
  frame: Wish['frame'] | undefined;
  piece: Piece | null;
  canvas: RefObject<HTMLCanvasElement | null>;
  /** the workers that share a piece, a band each; a large piece is cut finer, since one band may be harder than another */
  workers: readonly number[];
  /** lower goes first in the workers */
  rank: number;
  wanted?: boolean;
  /** where the treatment stands in the store: pictures then follow it at once, before the page is drawn anew */
  live?: (state: State) => Treatment;
  onPainted?: (piece: Piece) => void;
  /** a part of the canvas was painted by itself */
  onPart?: () => void;
  /** the picture on the canvas is about to change */
  onAsked?: () => void;
  onReadouts?: (readouts: Readouts) => void;
  /** a draft is on the canvas so many milliseconds after the hand's move */
  onDraft?: (ms: number) => void;
}

/** Puts the bands of a piece so many pixels high on a canvas. */
function layDown(canvas: HTMLCanvasElement, prints: readonly Print[], height: number): void {
  const context = canvas.getContext('2d', { alpha: false })!;
  prints.forEach((p, k) => context.putImageData(new ImageData(p.rgba, p.width, p.height), 0, k * Math.ceil(height / prints.length)));
}
const sizedAs = (canvas: HTMLCanvasElement, { width, height }: Piece): boolean => canvas.width === width && canvas.height === height;
function resize(canvas: HTMLCanvasElement, { width, height }: Piece): void {
  canvas.width = width;
  canvas.height = height;
}

/** A canvas as a painter's easel; what became of it is written on it, for those who drive the page from outside. */
function easelOn(options: RefObject<Options>, tellFailed: (words: string | null) => void): Easel {
  const scratch = document.createElement('canvas'),
    canvas = (): HTMLCanvasElement | null => options.current.canvas.current,
    count = (c: HTMLCanvasElement, what: 'painted' | 'drafts' | 'parts'): void => {
      c.dataset[what] = String(Number(c.dataset[what] ?? 0) + 1);
    };
  return {
    whole(prints, piece, key) {
      const c = canvas();
      if (!c) return;
      if (c.dataset['piece'] !== key) {
        resize(c, piece);
        c.dataset['piece'] = key;
      }
      layDown(c, prints, piece.height);
      count(c, 'painted');
      c.dataset['paintedAt'] = String(performance.now());
      c.dataset['ready'] = key;
      options.current.onPainted?.(piece);
    },
    draft(prints, drawn, ms) {
      const c = canvas();
      if (!c) return;
      if (sizedAs(c, drawn)) layDown(c, prints, drawn.height);
      else {
        if (!sizedAs(scratch, drawn)) resize(scratch, drawn);
        layDown(scratch, prints, drawn.height);
        c.getContext('2d')!.drawImage(scratch, 0, 0, c.width, c.height);
      }
      if (ms > 0) options.current.onDraft?.(ms);
      c.dataset['draftAt'] = String(performance.now());
      count(c, 'drafts');
    },
    part(print, { x, y }) {
      const c = canvas();
      if (!c) return;
      c.getContext('2d', { alpha: false })!.putImageData(new ImageData(print.rgba, print.width, print.height), x, y);
      c.dataset['partAt'] = String(performance.now());
      count(c, 'parts');
      options.current.onPart?.();
    },
    busy(on) {
      if (on) canvas()?.setAttribute('aria-busy', 'true');
      else canvas()?.removeAttribute('aria-busy');
    },
    read: (readouts) => options.current.onReadouts?.(readouts),
    failed: tellFailed,
    asked: () => options.current.onAsked?.(),
  };
}

/** What the options ask to be shown under a treatment; null where nothing is. */
function wishOf(
  { frame, piece, wanted = true, draft = null, fine = false, readout = null, limit = null }: Options,
  treatment: Treatment,
): Wish | null {
  return frame && piece && wanted ? { frame, piece, draft, fine, readout, limit, ...treatment } : null;
}

/** How long after a move pictures beside the one in hand follow it, in milliseconds. */
const lateMs = 50;
/** Keeps a canvas painted with a piece of a frame under a treatment. Returns what went wrong. */
export function useFrameRender(darkroom: Darkroom, options: Options): string | null {
  const { name, rank, workers, live, look, ground, mask = false, steps, place } = options,
    [message, setMessage] = useState<string | null>(null),
    now = useRef(options),
    painter = useRef<Painter | null>(null),
    shared = workers.join();
  now.current = options;
  useEffect(() => {
    const opened = openPainter(darkroom, name, easelOn(now, setMessage), { workers: now.current.workers, rank });
    painter.current = opened;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const follow = (): void => {
      timer = undefined;
      const next = now.current.live?.(store.getState());
      if (next) opened.show(wishOf(now.current, next));
    };
    // pictures follow the store at once, before the page is drawn anew; those beside the one in hand when that has its draft
    const leave = store.subscribe(rank < lateRank ? follow : () => (timer ??= setTimeout(follow, lateMs)));
    return () => {
      leave();
      clearTimeout(timer);
      opened.close();
    };
  }, [darkroom, name, rank, shared]);
  useEffect(() => {
    painter.current!.show(wishOf(now.current, live?.(store.getState()) ?? { look, ground, mask, steps, place }));
  });
  return message;
}

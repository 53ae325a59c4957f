import { addHistograms, plan, type Histogram, type Look, type Plan } from '@dyepot/core';
import { useEffect, useMemo, useRef, useState, type RefObject } from 'react';
import { store } from '../store.ts';
import type { Frame } from '../types.ts';
import type { Darkroom } from './darkroom.ts';

/** A rectangle of a plate level. */
export interface Piece { level: number; x: number; y: number; width: number; height: number }

const seedOf = (hash: string): number => Number.parseInt(hash.slice(0, 7), 16);

/** The plan of a frame under a look; null look is the frame before it. */
const planOf = (frame: Frame, look: Look | null): Plan => plan(look, { profile: frame.profile, seed: seedOf(frame.hash) }, 'srgb');

interface Options {
  name: string;
  frame: Frame | undefined;
  piece: Piece | null;
  look: Look | null;
  /** lower goes first in the workers */
  rank: number;
  canvas: RefObject<HTMLCanvasElement | null>;
  /** pieces are shared between the two workers as bands, or given whole to one of them */
  workers: readonly number[];
  counted?: boolean;
  wanted?: boolean;
  /** a coarser piece of the same part, painted first while a control moves */
  draft?: Piece | null;
  onPainted?: (piece: Piece) => void;
}

/** How long the hand rests before the draft is replaced. */
const restMs = 60;

/** Keeps a canvas painted with a piece of a frame under a plan. Returns its histogram, and what went wrong. */
export function useFrameRender(darkroom: Darkroom, { name, frame, piece, look, rank, canvas, workers, counted = false, wanted = true, draft = null, onPainted }: Options): { histogram: Histogram | null; message: string | null } {
  const [histogram, setHistogram] = useState<Histogram | null>(null), [message, setMessage] = useState<string | null>(null);
  const counts = useRef<(Histogram | null)[]>([]), p = useMemo(() => (frame ? planOf(frame, look) : null), [frame, look]), latest = useRef(p), sent = useRef<Look | null>(null), painted = useRef(onPainted);
  latest.current = p;
  painted.current = onPainted;
  const key = frame && piece && wanted ? `${frame.id}/${piece.level}/${piece.x},${piece.y},${piece.width},${piece.height}` : '';

  useEffect(() => {
    if (!frame || !piece || !key) return;
    setMessage(null);
    const rows = Math.ceil(piece.height / workers.length);
    counts.current = workers.map(() => null);
    let shown = 0;
    workers.forEach((worker, i) => {
      const top = i * rows, height = Math.min(rows, piece.height - top);
      if (height <= 0) return;
      const url = `/api/frames/${frame.id}/plate/${piece.level}?x=${piece.x}&y=${piece.y + top}&width=${piece.width}&height=${height}&v=${frame.hash.slice(0, 8)}`;
      darkroom.hold(`${name}:${i}`, worker, rank, url, { x: piece.x, y: piece.y + top }, (done) => {
        const c = canvas.current;
        if (!c) return;
        const at = `${key}`;
        if (c.dataset['piece'] !== at) { c.width = piece.width; c.height = piece.height; c.dataset['piece'] = at; shown = 0; }
        c.getContext('2d')!.putImageData(new ImageData(done.rgba, done.width, done.height), 0, top);
        c.dataset['painted'] = String(Number(c.dataset['painted'] ?? 0) + 1);
        c.dataset['paintedAt'] = String(performance.now());
        if (++shown >= workers.length) { c.dataset['ready'] = at; painted.current?.(piece); }
        counts.current[i] = done.histogram;
        if (done.histogram && counts.current.every((h) => h !== null)) setHistogram(counts.current.reduce((a, b) => addHistograms(a!, b!)));
      }, setMessage);
      if (latest.current) darkroom.render(`${name}:${i}`, latest.current, counted);
    });
    return () => workers.forEach((_, i) => darkroom.drop(`${name}:${i}`));
    // the key says all there is to say of frame and piece
  }, [darkroom, name, key, counted]);

  useEffect(() => {
    if (!frame || !draft || !key) return;
    const scratch = document.createElement('canvas'), rows = Math.ceil(draft.height / workers.length);
    workers.forEach((worker, i) => {
      const top = i * rows, height = Math.min(rows, draft.height - top);
      if (height <= 0) return;
      darkroom.hold(`${name}-draft:${i}`, worker, 0, `/api/frames/${frame.id}/plate/${draft.level}?x=${draft.x}&y=${draft.y + top}&width=${draft.width}&height=${height}&v=${frame.hash.slice(0, 8)}`, { x: draft.x, y: draft.y + top }, (done) => {
        const c = canvas.current;
        if (!c || c.dataset['piece'] !== key) return;
        scratch.width = done.width; scratch.height = done.height;
        scratch.getContext('2d')!.putImageData(new ImageData(done.rgba, done.width, done.height), 0, 0);
        c.getContext('2d')!.drawImage(scratch, 0, (top / draft.height) * c.height, c.width, (done.height / draft.height) * c.height);
        c.dataset['draftAt'] = String(performance.now());
        c.dataset['drafts'] = String(Number(c.dataset['drafts'] ?? 0) + 1);
      }, () => {});
    });
    return () => workers.forEach((_, i) => darkroom.drop(`${name}-draft:${i}`));
  }, [darkroom, name, key, draft?.level]);

  // the draft is asked for as soon as the look has changed, before the page is drawn anew
  useEffect(() => {
    if (!frame || !draft || !key) return;
    sent.current = store.getState().bench.look;
    return store.subscribe(() => {
      const next = store.getState().bench.look;
      if (next === sent.current) return;
      sent.current = next;
      const drafted = planOf(frame, next);
      workers.forEach((_, i) => darkroom.render(`${name}-draft:${i}`, drafted));
    });
  }, [darkroom, name, key, frame, draft?.level]);

  const first = useRef(true);
  useEffect(() => {
    if (!p || !key) return;
    const whole = (): void => workers.forEach((_, i) => darkroom.render(`${name}:${i}`, p, counted));
    if (!draft || first.current) { first.current = false; whole(); return; }
    if (sent.current !== look) workers.forEach((_, i) => darkroom.render(`${name}-draft:${i}`, p));
    const timer = setTimeout(whole, restMs);
    return () => clearTimeout(timer);
  }, [darkroom, name, key, p, counted]);
  return { histogram, message };
}

import { addReadouts, drawingOf, guideDrawing, levelSize, needsGuide, plan, type Area, type Drawing, type Groundwork, type Look, type ReadoutKind, type Readouts } from '@dyepot/core';
import { useEffect, useMemo, useRef, useState, type RefObject } from 'react';
import { store, type State } from '../store.ts';
import type { Frame } from '../types.ts';
import type { Darkroom } from './darkroom.ts';
import type { Job } from './renderWorker.ts';

/** A rectangle of a level of the picture, after its geometry. */
export interface Piece extends Area { level: number }
/** What a frame is shown under. A null look is the neutral response; null groundwork is none. */
export interface Treatment { look: Look | null; ground: Groundwork | null; /** where sharpening acts is shown instead */ mask?: boolean }

interface Options extends Treatment {
  name: string;
  frame: Frame | undefined;
  piece: Piece | null;
  canvas: RefObject<HTMLCanvasElement | null>;
  /** pieces are shared between the two workers as bands, or given whole to one of them */
  workers: readonly number[];
  /** lower goes first in the workers */
  rank: number;
  readout?: ReadoutKind | null;
  /** the part that readouts read, as fractions of the picture */
  limit?: Area | null;
  wanted?: boolean;
  /** a coarser piece of the same part, painted first while a control moves; and where its treatment stands in the store */
  draft?: Piece | null;
  live?: (state: State) => Treatment;
  onPainted?: (piece: Piece) => void;
}

/** How long the hand rests before the draft is replaced. */
const restMs = 60;
const seedOf = (hash: string): number => Number.parseInt(hash.slice(0, 7), 16);

/** The bands of a piece, one for each worker, and the plate each is drawn from. */
function bandsOf(frame: Frame, ground: Groundwork | null, piece: Piece, count: number, mask = false): { drawing: Drawing; url: string; top: number }[] {
  const rows = Math.ceil(piece.height / count);
  return Array.from({ length: count }, (_, i) => i * rows).filter((top) => top < piece.height).map((top) => {
    const planned = drawingOf(ground, frame, piece.level, { x: piece.x, y: piece.y + top, width: piece.width, height: Math.min(rows, piece.height - top) }, mask);
    // under a geometry or detail of its own a smaller level is held whole, so that changing it needs no new plate
    const source = (planned.view || planned.detail || planned.fringes) && planned.level > 0 ? { x: 0, y: 0, ...levelSize(frame.width, frame.height, planned.level) } : planned.source, { x, y, width, height } = source;
    return { drawing: { ...planned, source }, top, url: `/api/frames/${frame.id}/plate/${planned.level}?x=${x}&y=${y}&width=${width}&height=${height}&v=${frame.hash.slice(0, 8)}` };
  });
}

/** The part of a band that lies within a limit (fractions of the picture), in the band's own pixels; it may be empty. */
function partOf({ area, whole }: Drawing, limit: Area | null): Area | null {
  if (!limit) return null;
  const clamp = (v: number, top: number): number => Math.round(Math.min(top, Math.max(0, v))), x = clamp(limit.x * whole.width - area.x, area.width), y = clamp(limit.y * whole.height - area.y, area.height);
  return { x, y, width: clamp((limit.x + limit.width) * whole.width - area.x, area.width) - x, height: clamp((limit.y + limit.height) * whole.height - area.y, area.height) - y };
}

function jobsOf(frame: Frame, { look, ground, mask = false }: Treatment, piece: Piece, count: number, readout: ReadoutKind | null, limit: Area | null = null): Job[] {
  const p = plan(look, { profile: frame.profile, seed: seedOf(frame.hash), groundwork: ground, picture: frame }, 'srgb'), small = guideDrawing(ground, frame);
  const guide = needsGuide(p) ? { url: `/api/frames/${frame.id}/plate/${small.level}?v=${frame.hash.slice(0, 8)}`, drawing: { ...small, source: { x: 0, y: 0, ...levelSize(frame.width, frame.height, small.level) } } } : null;
  return bandsOf(frame, ground, piece, count, mask).map(({ drawing }) => ({ plan: p, drawing, guide, readout: readout && { kind: readout, part: partOf(drawing, limit) } }));
}

/** Keeps a canvas painted with a piece of a frame under a treatment. Returns its readouts, and what went wrong. */
export function useFrameRender(darkroom: Darkroom, { name, frame, piece, look, ground, mask = false, limit = null, rank, canvas, workers, readout = null, wanted = true, draft = null, live, onPainted }: Options): { readouts: Readouts | null; message: string | null } {
  const [readouts, setReadouts] = useState<Readouts | null>(null), [message, setMessage] = useState<string | null>(null);
  const parts = useRef<(Readouts | null)[]>([]), reading = useRef({ readout, limit }), sent = useRef<Treatment | null>(null), asked = useRef(''), waiting = useRef(false), shownParts = useRef(0);
  reading.current = { readout, limit };
  const shown = frame && piece && wanted, key = shown ? `${frame.id}/${piece.level}/${piece.x},${piece.y},${piece.width},${piece.height}` : '';
  const holds = shown ? bandsOf(frame, ground, piece, workers.length, mask).map((b) => b.url).join(' ') : '', draftHolds = shown && draft ? bandsOf(frame, ground, draft, workers.length).map((b) => b.url).join(' ') : '';
  const jobs = useMemo(() => (shown ? jobsOf(frame, { look, ground, mask }, piece, workers.length, readout, limit) : null), [frame, look, ground, mask, key, readout, limit]), now = useRef({ key, piece, draft, onPainted });
  now.current = { key, piece, draft, onPainted };

  // what is held stays while only the part that is seen, or what is done to it, changes
  useEffect(() => {
    if (!holds) return;
    setMessage(null);
    const urls = holds.split(' ');
    parts.current = urls.map(() => null);
    const rests = (): void => { if (!waiting.current && urls.every((_, k) => darkroom.rests(`${name}:${k}`))) canvas.current?.removeAttribute('aria-busy'); };
    urls.forEach((url, i) => {
      darkroom.hold(`${name}:${i}`, workers[i]!, rank, url, (done, of) => {
        const c = canvas.current, { key: wantedKey, piece: p, onPainted: tell } = now.current;
        if (!c || !p || of !== wantedKey) return;
        if (c.dataset['piece'] !== of) { c.width = p.width; c.height = p.height; c.dataset['piece'] = of; shownParts.current = 0; }
        c.getContext('2d')!.putImageData(new ImageData(done.rgba, done.width, done.height), 0, i * Math.ceil(p.height / workers.length));
        c.dataset['painted'] = String(Number(c.dataset['painted'] ?? 0) + 1);
        c.dataset['paintedAt'] = String(performance.now());
        rests();
        if (++shownParts.current >= urls.length) { c.dataset['ready'] = of; tell?.(p); }
        parts.current[i] = done.readouts;
        if (done.readouts && parts.current.every((r) => r?.kind === done.readouts!.kind)) setReadouts(parts.current.reduce((x, y) => addReadouts(x!, y!)));
      }, (words) => { rests(); setMessage(words); });
    });
    return () => urls.forEach((_, i) => darkroom.drop(`${name}:${i}`));
  }, [darkroom, name, holds]);

  useEffect(() => {
    if (!draftHolds) return;
    const scratch = document.createElement('canvas'), urls = draftHolds.split(' '), read: (Readouts | null)[] = urls.map(() => null);
    urls.forEach((url, i) => {
      darkroom.hold(`${name}-draft:${i}`, workers[i]!, 0, url, (done, of) => {
        const c = canvas.current, { draft: d } = now.current;
        if (!c || !d || c.dataset['piece'] !== of) return;
        scratch.width = done.width; scratch.height = done.height;
        scratch.getContext('2d')!.putImageData(new ImageData(done.rgba, done.width, done.height), 0, 0);
        c.getContext('2d')!.drawImage(scratch, 0, ((i * Math.ceil(d.height / workers.length)) / d.height) * c.height, c.width, (done.height / d.height) * c.height);
        c.dataset['draftAt'] = String(performance.now());
        c.dataset['drafts'] = String(Number(c.dataset['drafts'] ?? 0) + 1);
        // readouts follow the hand: those of the draft stand until the whole picture's come
        read[i] = done.readouts;
        if (done.readouts && read.every((r) => r?.kind === done.readouts!.kind)) { setReadouts(read.reduce((x, y) => addReadouts(x!, y!))); read.fill(null); }
      }, () => {});
    });
    return () => urls.forEach((_, i) => darkroom.drop(`${name}-draft:${i}`));
  }, [darkroom, name, draftHolds]);

  // the draft is asked for as soon as the treatment has changed, before the page is drawn anew
  useEffect(() => {
    if (!frame || !draft || !key || !live) return;
    sent.current = live(store.getState());
    return store.subscribe(() => {
      const next = live(store.getState());
      if (next.look === sent.current?.look && next.ground === sent.current.ground && next.mask === sent.current.mask) return;
      sent.current = next;
      jobsOf(frame, next, draft, workers.length, reading.current.readout, reading.current.limit).forEach((job, i) => darkroom.render(`${name}-draft:${i}`, job, key));
    });
  }, [darkroom, name, key, frame, draftHolds]);

  useEffect(() => {
    if (!jobs || !key || !frame) { canvas.current?.removeAttribute('aria-busy'); return; }
    canvas.current?.setAttribute('aria-busy', 'true');
    waiting.current = true;
    const whole = (): void => { waiting.current = false; jobs.forEach((job, i) => darkroom.render(`${name}:${i}`, job, key)); };
    if (!draft || asked.current !== key) { asked.current = key; whole(); return; }
    if (sent.current?.look !== look || sent.current.ground !== ground || Boolean(sent.current.mask) !== mask) jobsOf(frame, { look, ground, mask }, draft, workers.length, readout, limit).forEach((job, i) => darkroom.render(`${name}-draft:${i}`, job, key));
    const timer = setTimeout(whole, restMs);
    return () => clearTimeout(timer);
  }, [darkroom, name, jobs]);
  return { readouts, message };
}

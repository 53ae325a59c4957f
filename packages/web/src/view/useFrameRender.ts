import { addReadouts, type Area, type ReadoutKind, type Readouts } from '@dyepot/core';
import { useEffect, useRef, useState, type RefObject } from 'react';
import { store, type State } from '../store.ts';
import type { Frame } from '../types.ts';
import type { Darkroom, Print } from './darkroom.ts';
import { Gathered } from './gathered.ts';
import { bandsOf, jobsOf, type Piece, type Treatment } from './frameJobs.ts';

interface Options extends Treatment {
  name: string;
  frame: Frame | undefined;
  piece: Piece | null;
  canvas: RefObject<HTMLCanvasElement | null>;
  /** the workers that share a piece, a band each; a large piece is cut finer, since one band may be harder than another */
  workers: readonly number[];
  /** lower goes first in the workers */
  rank: number;
  readout?: ReadoutKind | null;
  /** the part that readouts read, as fractions of the picture */
  limit?: Area | null;
  wanted?: boolean;
  /** a coarser piece of the same part, painted first while a control moves */
  draft?: Piece | null;
  /** where the treatment stands in the store: pictures then follow it at once, before the page is drawn anew */
  live?: (state: State) => Treatment;
  onPainted?: (piece: Piece) => void;
  /** the picture on the canvas is about to change */
  onAsked?: () => void;
  onReadouts?: (readouts: Readouts) => void;
  /** a draft is on the canvas so many milliseconds after the hand's move */
  onDraft?: (ms: number) => void;
}

/** How long the hand rests before the draft is replaced. */
const restMs = 20;
/** From how many pixels on a piece is cut into three bands for each worker. */
const largePiece = 4e5;
const sameTreatment = (a: Treatment | null, b: Treatment): boolean =>
  a !== null && a.look === b.look && a.ground === b.ground && Boolean(a.mask) === Boolean(b.mask);

/** Puts the bands of a piece so many pixels high on a canvas. */
function layDown(canvas: HTMLCanvasElement, prints: readonly Print[], height: number): void {
  const context = canvas.getContext('2d', { alpha: false })!;
  prints.forEach((p, k) => context.putImageData(new ImageData(p.rgba, p.width, p.height), 0, k * Math.ceil(height / prints.length)));
}

/** Keeps a canvas painted with a piece of a frame under a treatment. Returns what went wrong. */
export function useFrameRender(
  darkroom: Darkroom,
  {
    name,
    frame,
    piece,
    look,
    ground,
    mask = false,
    limit = null,
    rank,
    canvas,
    workers,
    readout = null,
    wanted = true,
    draft = null,
    live,
    onPainted,
    onReadouts,
    onAsked,
    onDraft,
  }: Options,
): string | null {
  const [message, setMessage] = useState<string | null>(null),
    sent = useRef<Treatment | null>(null),
    asked = useRef({ key: '', stamp: '' }),
    waiting = useRef(false),
    draftFrom = useRef(0),
    /** the wishes numbered, and the newest that is on the canvas whole and as a draft */ turn = useRef(0),
    wholeTurn = useRef(0),
    draftTurn = useRef(0),
    timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const shown = frame && piece && wanted,
    key = shown ? `${frame.id}/${piece.level}/${piece.x},${piece.y},${piece.width},${piece.height}` : '';
  const shares = piece && piece.width * piece.height > largePiece ? [...workers, ...workers, ...workers] : workers;
  const holds = shown
      ? bandsOf(frame, ground, piece, shares.length, { look, mask })
          .map((b) => b.url)
          .join(' ')
      : '',
    draftHolds =
      shown && draft
        ? bandsOf(frame, ground, draft, workers.length, { look })
            .map((b) => b.url)
            .join(' ')
        : '';
  const latest = { key, frame, piece, shares, draft, holds, draftHolds, readout, limit, live, onPainted, onReadouts, onAsked, onDraft },
    now = useRef(latest);
  now.current = latest;

  // what is held stays while only the part that is seen, or what is done to it, changes
  useEffect(() => {
    if (!holds) return;
    setMessage(null);
    const urls = holds.split(' ');
    const bands = new Gathered<Print>(urls.length),
      parts = new Gathered<Readouts>(urls.length);
    const rests = (): void => {
      if (!waiting.current && urls.every((_, k) => darkroom.rests(`${name}:${k}`))) canvas.current?.removeAttribute('aria-busy');
    };
    urls.forEach((url, i) => {
      darkroom.hold(
        `${name}:${i}`,
        shares[i]!,
        rank,
        url,
        (done, wished) => {
          const c = canvas.current,
            { key: wantedKey, piece: p, onPainted: tell } = now.current,
            [of, number] = wished.split('#') as [string, string];
          if (!c || !p || of !== wantedKey) return;
          // a draft of a later wish stands
          if (c.dataset['piece'] === of && Number(number) < draftTurn.current) return rests();
          const prints = bands.add(i, done, wished, !now.current.draft);
          if (!prints) return;
          wholeTurn.current = Number(number);
          if (c.dataset['piece'] !== of) {
            c.width = p.width;
            c.height = p.height;
            c.dataset['piece'] = of;
          }
          layDown(c, prints, p.height);
          c.dataset['painted'] = String(Number(c.dataset['painted'] ?? 0) + 1);
          c.dataset['paintedAt'] = String(performance.now());
          rests();
          c.dataset['ready'] = of;
          tell?.(p);
        },
        (words) => {
          rests();
          setMessage(words);
        },
        (readouts, of) => {
          const all = parts.add(i, readouts, of, !now.current.draft);
          if (all && of.startsWith(`${now.current.key}#`)) now.current.onReadouts?.(all.reduce(addReadouts));
        },
      );
    });
    return () => urls.forEach((_, i) => darkroom.drop(`${name}:${i}`));
  }, [darkroom, name, holds]);

  useEffect(() => {
    if (!draftHolds) return;
    const scratch = document.createElement('canvas'),
      urls = draftHolds.split(' '),
      bands = new Gathered<Print>(urls.length),
      parts = new Gathered<Readouts>(urls.length);
    urls.forEach((url, i) => {
      darkroom.hold(
        `${name}-draft:${i}`,
        workers[i]!,
        0,
        url,
        (done, wished) => {
          const c = canvas.current,
            { draft: d } = now.current,
            [of, number] = wished.split('#') as [string, string];
          // the whole of this wish, or of a later one, stands
          if (!c || !d || c.dataset['piece'] !== of || Number(number) <= wholeTurn.current) return;
          draftTurn.current = Number(number);
          // shown when all its bands are there: the large canvas is then drawn once
          const prints = bands.add(i, done, wished, true);
          if (!prints) return;
          if (scratch.width !== d.width || scratch.height !== d.height) {
            scratch.width = d.width;
            scratch.height = d.height;
          }
          layDown(scratch, prints, d.height);
          c.getContext('2d')!.drawImage(scratch, 0, 0, c.width, c.height);
          c.dataset['draftAt'] = String(performance.now());
          if (draftFrom.current > 0) {
            now.current.onDraft?.(performance.now() - draftFrom.current);
            draftFrom.current = 0;
          }
          c.dataset['drafts'] = String(Number(c.dataset['drafts'] ?? 0) + 1);
        },
        () => {},
        (readouts, of) => {
          // readouts follow the hand: those of the draft stand until the whole picture's come
          const all = parts.add(i, readouts, of, true);
          if (all) now.current.onReadouts?.(all.reduce(addReadouts));
        },
      );
    });
    return () => urls.forEach((_, i) => darkroom.drop(`${name}-draft:${i}`));
  }, [darkroom, name, draftHolds]);

  /** Asks for a draft and, once the hand rests, the whole; for the whole at once where there is nothing to draft from. What needs other plates waits until they are held. */
  const ask = (treatment: Treatment): void => {
    const { key: of, frame: f, piece: p, draft: d, readout: kind, limit: part } = now.current;
    if (!of || !f || !p) return;
    if (!sameTreatment(sent.current, treatment)) now.current.onAsked?.();
    sent.current = treatment;
    waiting.current = true;
    canvas.current?.setAttribute('aria-busy', 'true');
    clearTimeout(timer.current);
    const wish = ++turn.current;
    const render = (slot: string, drawn: Piece, held: string, count: number): void => {
      const { jobs, urls } = jobsOf({ frame: f, piece: drawn, readout: kind, limit: part }, treatment, count);
      if (urls === held) jobs.forEach((job, i) => darkroom.render(`${slot}:${i}`, job, `${of}#${wish}`));
    };
    const whole = (): void => {
      waiting.current = false;
      render(name, p, now.current.holds, now.current.shares.length);
    };
    if (d && asked.current.key === of) {
      now.current.shares.forEach((_, i) => darkroom.stop(`${name}:${i}`));
      draftFrom.current ||= performance.now();
      render(`${name}-draft`, d, now.current.draftHolds, workers.length);
      timer.current = setTimeout(whole, restMs);
    } else whole();
  };
  useEffect(
    () =>
      store.subscribe(() => {
        const next = now.current.live?.(store.getState());
        if (next && sent.current && !sameTreatment(sent.current, next)) ask(next);
      }),
    [darkroom, name],
  );

  useEffect(() => {
    if (!key) {
      sent.current = null;
      asked.current = { key: '', stamp: '' };
      clearTimeout(timer.current);
      canvas.current?.removeAttribute('aria-busy');
      return;
    }
    const treatment = live?.(store.getState()) ?? { look, ground, mask },
      stamp = `${key} ${holds} ${draftHolds} ${readout} ${limit ? Object.values(limit).join() : ''}`;
    if (asked.current.stamp !== stamp || !sameTreatment(sent.current, treatment)) ask(treatment);
    asked.current = { key, stamp };
  }, [darkroom, name, key, holds, draftHolds, look, ground, mask, readout, limit]);
  useEffect(() => () => clearTimeout(timer.current), []);
  return message;
}

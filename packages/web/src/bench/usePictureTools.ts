import {
  defaultsOf,
  monotoneCubic,
  oklabOf8,
  stepKind,
  stepsOf,
  type BandHandle,
  type BandParameter,
  type CurvePoints,
  type Look,
  type LookStep,
  type OwnSteps,
} from '@dyepot/core';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useAppDispatch } from '../store.ts';
import { complain } from '../kit/notices.tsx';
import type { Frame } from '../types.ts';
import { act } from './benchSlice.ts';
import { pulledHandles, type BandCurve } from '../steps/hueBands/hueHandles.ts';
import type { Incoming, PictureTool, PictureTools } from '../steps/fitting.ts';
import { before, meanAt } from './incoming.ts';

/** OKLCh of an 8-bit colour, hue in degrees. */
function lchOf([r, g, b]: readonly [number, number, number]): { lightness: number; chroma: number; hue: number } {
  const [L, a, y] = oklabOf8(Math.round(r), Math.round(g), Math.round(b));
  return { lightness: L, chroma: Math.hypot(a, y), hue: ((Math.atan2(y, a) * 180) / Math.PI + 360) % 360 };
}
const luma = ([r, g, b]: readonly [number, number, number]): number => (0.2126 * r + 0.7152 * g + 0.0722 * b) / 255;
/** Where a rising curve comes out at a value. */
function inverse(f: (x: number) => number, value: number): number {
  let low = 0,
    high = 1;
  for (let i = 0; i < 40; i++) {
    const middle = (low + high) / 2;
    if (f(middle) < value) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}
/** A hue in hand, and the value its curve had there. */
interface Pull {
  hue: number;
  from: number;
  gesture: string;
}
let pulls = 0;
/** Fetched when a tool first asks what comes to its step. */
const loadSmall = (): Promise<typeof import('./smallPicture.ts')> =>
  import('./smallPicture.ts').catch(() => {
    throw new Error('the frame could not be read: the server does not answer');
  });
/** The same answer for the same thing, so that pictures are not asked for anew. */
function remembering<T>(f: (of: T) => T): (of: T) => T {
  let last: { from: T; out: T } | null = null;
  return (of) => (last?.from === of ? last : (last = { from: of, out: f(of) })).out;
}

interface OnPicture extends PictureTools {
  /** the look as the picture shows it while a tool is in hand */
  shown: (look: Look) => Look;
  shownSteps: (own: OwnSteps | null) => OwnSteps | null;
  /** whether that is another than the look itself */
  passing: boolean;
  onPick: ((at: { x: number; y: number }, mean: (side: number) => [number, number, number] | null) => void) | null;
  onPull: { start: (colour: [number, number, number], at: { x: number; y: number }) => void; move: (upPx: number) => void } | null;
}

/** A place of the picture (fractions) as one of the uncropped frame. */
function onFrame({ groundwork }: Frame, at: { x: number; y: number }): { x: number; y: number } {
  if (!groundwork) return at;
  const { crop } = groundwork.geometry;
  return { x: crop.x + at.x * crop.width, y: crop.y + at.y * crop.height };
}

/** The tools a step lends the hand on the picture: pick a colour, set a curve's point, drag a hue. */
export function usePictureTools(look: Look, own: OwnSteps | null, side: 'look' | 'frame', selected: string, frame: Frame): OnPicture {
  const dispatch = useAppDispatch(),
    [tool, onTool] = useState<PictureTool>('off'),
    [size, onSize] = useState(11),
    [channel, onChannel] = useState('points'),
    [band, onBand] = useState<BandCurve>('hue'),
    [showing, onShow] = useState(false),
    pull = useRef<Pull | null>(null),
    early = useRef<number | null>(null);
  const step = (side === 'look' ? stepsOf(look) : [...(own?.scene ?? []), ...(own?.print ?? [])]).find((s) => s.id === selected),
    params = step ? { ...defaultsOf(stepKind(step.kind)!), ...step.params } : {};
  useEffect(() => {
    onTool('off');
    onChannel('points');
    onShow(false);
  }, [selected]);
  // picked is the colour that reaches the step; shown is what of it the step takes
  const tooled = tool === 'range' || showing,
    upTo = (print: readonly LookStep[]): LookStep[] => {
      const at = print.findIndex((s) => s.id === selected);
      if (tool === 'range') return print.slice(0, at);
      return print.slice(0, at + 1).map((s, i) => (i === at ? { ...s, on: true, strength: 1, params: { ...s.params, show: 1 } } : s));
    };
  const shown = useMemo(
      () => remembering((l: Look): Look => (tooled && l.print.some((s) => s.id === selected) ? { ...l, print: upTo(l.print) } : l)),
      [tool, showing, selected],
    ),
    shownSteps = useMemo(
      () =>
        remembering((o: OwnSteps | null): OwnSteps | null => {
          if (!tooled || !o) return o;
          // what comes after a step of the look's is out of the way too
          return o.print.some((s) => s.id === selected) ? { ...o, print: upTo(o.print) } : side === 'look' ? { ...o, print: [] } : o;
        }),
      [tool, showing, selected, side],
    );
  // what comes to the step, not what leaves the look, is what its curve and its hues are about
  const kept = useRef<{ key: string; picture: Promise<Incoming> } | null>(null),
    come = useRef<Incoming | null>(null);
  const incoming = (): Promise<Incoming | null> => {
    const reaching = before(look, own, selected);
    if (!reaching) return Promise.resolve(null);
    const key = `${frame.id} ${frame.hash} ${JSON.stringify([reaching, frame.groundwork])}`;
    if (kept.current?.key !== key) {
      come.current = null;
      const picture = loadSmall().then(({ smallPicture }) => smallPicture(frame, reaching.look, reaching.steps));
      kept.current = { key, picture };
      picture.then(
        (p) => {
          if (kept.current?.key === key) come.current = p;
        },
        () => {
          kept.current = null;
        },
      );
    }
    return kept.current.picture;
  };
  useEffect(() => {
    if (tool === 'point' || tool === 'pull') incoming().catch((e: unknown) => complain(e instanceof Error ? e.message : String(e)));
  }, [tool, look, own, selected, frame]);
  const set = (values: Parameters<typeof act.parametersSet>[0]['values'], words: string, gesture: string): void => {
    if (step) dispatch(act.parametersSet({ id: step.id, values, words, gesture }));
  };
  const onPick: OnPicture['onPick'] =
    tool === 'range'
      ? (_at, mean) => {
          const colour = mean(size);
          if (!colour) return;
          const { lightness, chroma, hue } = lchOf(colour);
          set(
            {
              hue: Math.round(hue * 10) / 10,
              chroma: Math.round(Math.min(0.37, chroma) * 1000) / 1000,
              lightness: Math.round(Math.min(1, lightness) * 1000) / 1000,
            },
            'Pick a colour',
            '',
          );
          onTool('off');
        }
      : tool === 'point'
        ? (at, mean) => {
            const colour = come.current ? meanAt(come.current, at, 5) : mean(5),
              points = params[channel] as CurvePoints;
            if (!colour) return;
            const value = channel === 'points' ? luma(colour) : colour[['red', 'green', 'blue'].indexOf(channel)]! / 255,
              x = Math.round((come.current ? value : inverse(monotoneCubic(points), value)) * 1000) / 1000;
            if (points.length < 24 && points.every((p) => Math.abs(p[0] - x) > 0.012) && x > 0.002 && x < 0.998)
              set(
                { [channel]: [...points, [x, Math.round(monotoneCubic(points)(x) * 1000) / 1000] as const].sort((a, b) => a[0] - b[0]) },
                'Point from the picture',
                '',
              );
          }
        : tool === 'place'
          ? (at) => {
              const on = params['of'] === 'picture' ? at : onFrame(frame, at);
              set({ x: Math.round(on.x * 1000) / 10, y: Math.round(on.y * 1000) / 10 }, 'Put on the picture', '');
              onTool('off');
            }
          : null;
  // what is dragged on the picture: the curve in hand, or the only one there is
  const pulled = step?.kind === 'mono' ? 'response' : band;
  const pullBy = (p: Pull, up: number): void => {
    const declared = stepKind(step?.kind ?? '')?.params[pulled] as BandParameter | undefined;
    if (!declared) return;
    const value = Math.min(declared.max, Math.max(declared.min, p.from + (up / 140) * declared.max));
    set(
      { [pulled]: pulledHandles(params[pulled] as readonly BandHandle[], p.hue, Math.round(value * 1000) / 1000) },
      'Drag a hue',
      p.gesture,
    );
  };
  const takeHue = (colour: [number, number, number]): void => {
    const { hue } = lchOf(colour),
      handles = params[pulled] as readonly BandHandle[],
      near = handles.find((h) => Math.abs(((h[0] - hue + 540) % 360) - 180) < 22);
    pull.current = { hue: near?.[0] ?? hue, from: near?.[1] ?? 0, gesture: `pull-${++pulls}` };
  };
  const onPull: OnPicture['onPull'] =
    tool === 'pull'
      ? {
          start: (colour, at) => {
            pull.current = null;
            early.current = null;
            if (come.current) takeHue(meanAt(come.current, at, 5));
            else {
              // what is seen is another colour than what comes to the step: the hand is waited for by that
              const take = (of: [number, number, number]): void => {
                takeHue(of);
                if (early.current !== null && pull.current) pullBy(pull.current, early.current);
              };
              incoming().then(
                (picture) => take(picture ? meanAt(picture, at, 5) : colour),
                () => {
                  if (step?.kind !== 'mono') take(colour);
                },
              );
            }
          },
          move: (up) => {
            early.current = up;
            if (pull.current) pullBy(pull.current, up);
          },
        }
      : null;
  return {
    tool,
    onTool,
    size,
    onSize,
    channel,
    onChannel,
    band,
    onBand,
    onShow,
    incoming,
    shown,
    shownSteps,
    passing: tool === 'range' || showing,
    onPick,
    onPull,
  };
}

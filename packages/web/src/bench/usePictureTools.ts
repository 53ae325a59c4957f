import { defaultsOf, monotoneCubic, oklabOf8, stepKind, stepsOf, type BandHandle, type BandParameter, type CurvePoints, type Look } from '@dyepot/core';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useAppDispatch } from '../store.ts';
import { act } from './benchSlice.ts';
import { pulledHandles, type BandCurve } from './HueBandEditor.tsx';
import type { PictureTool, PictureTools } from './Tray.tsx';

/** OKLCh of an 8-bit colour, hue in degrees. */
function lchOf([r, g, b]: readonly [number, number, number]): { lightness: number; chroma: number; hue: number } {
  const [L, a, y] = oklabOf8(Math.round(r), Math.round(g), Math.round(b));
  return { lightness: L, chroma: Math.hypot(a, y), hue: ((Math.atan2(y, a) * 180) / Math.PI + 360) % 360 };
}
const luma = ([r, g, b]: readonly [number, number, number]): number => (0.2126 * r + 0.7152 * g + 0.0722 * b) / 255;
/** Where a rising curve comes out at a value. */
function inverse(f: (x: number) => number, value: number): number {
  let low = 0, high = 1;
  for (let i = 0; i < 40; i++) { const middle = (low + high) / 2; if (f(middle) < value) low = middle; else high = middle; }
  return (low + high) / 2;
}
let pulls = 0;

interface OnPicture extends PictureTools {
  /** the look as the picture shows it while a tool is in hand */
  shown: (look: Look) => Look;
  /** whether that is another than the look itself */
  passing: boolean;
  onPick: ((at: { x: number; y: number }, mean: (side: number) => [number, number, number] | null) => void) | null;
  onPull: { start: (colour: [number, number, number]) => void; move: (upPx: number) => void } | null;
}

/** The tools a step lends the hand on the picture: pick a colour, set a curve's point, drag a hue. */
export function usePictureTools(look: Look, selected: string): OnPicture {
  const dispatch = useAppDispatch(), [tool, onTool] = useState<PictureTool>('off'), [size, onSize] = useState(11), [channel, onChannel] = useState('points'), [band, onBand] = useState<BandCurve>('hue'), [showing, onShow] = useState(false), pull = useRef<{ hue: number; from: number; gesture: string } | null>(null);
  const step = stepsOf(look).find((s) => s.id === selected), params = step ? { ...defaultsOf(stepKind(step.kind)!), ...step.params } : {};
  useEffect(() => { onTool('off'); onChannel('points'); onShow(false); }, [selected]);
  const shown = useMemo(() => {
    let last: { from: Look | null; out: Look } = { from: null, out: look };
    return (l: Look): Look => {
      if (tool !== 'range' && !showing) return l;
      if (last.from === l) return last.out;
      const at = l.print.findIndex((s) => s.id === selected);
      // picked is the colour that reaches the step; shown is what of it the step takes
      const out = at < 0 ? l : tool === 'range' ? { ...l, print: l.print.slice(0, at) } : { ...l, print: l.print.slice(0, at + 1).map((s, i) => (i === at ? { ...s, on: true, strength: 1, params: { ...s.params, show: 1 } } : s)) };
      last = { from: l, out };
      return out;
    };
  }, [tool, showing, selected]);
  const set = (values: Parameters<typeof act.parametersSet>[0]['values'], words: string, gesture: string): void => { if (step) dispatch(act.parametersSet({ id: step.id, values, words, gesture })); };
  const onPick: OnPicture['onPick'] = tool === 'range' ? (_at, mean) => {
    const colour = mean(size);
    if (!colour) return;
    const { lightness, chroma, hue } = lchOf(colour);
    set({ hue: Math.round(hue * 10) / 10, chroma: Math.round(Math.min(0.37, chroma) * 1000) / 1000, lightness: Math.round(Math.min(1, lightness) * 1000) / 1000 }, 'Pick a colour', '');
    onTool('off');
  } : tool === 'point' ? (_at, mean) => {
    const colour = mean(5), points = params[channel] as CurvePoints;
    if (!colour) return;
    const value = channel === 'points' ? luma(colour) : colour[['red', 'green', 'blue'].indexOf(channel)]! / 255, x = Math.round(inverse(monotoneCubic(points), value) * 1000) / 1000;
    if (points.length < 24 && points.every((p) => Math.abs(p[0] - x) > 0.012) && x > 0.002 && x < 0.998) set({ [channel]: [...points, [x, Math.round(monotoneCubic(points)(x) * 1000) / 1000] as const].sort((a, b) => a[0] - b[0]) }, 'Point from the picture', '');
  } : null;
  const onPull: OnPicture['onPull'] = tool === 'pull' ? {
    start: (colour) => { const { hue } = lchOf(colour), handles = params[band] as readonly BandHandle[], near = handles.find((h) => Math.abs(((h[0] - hue + 540) % 360) - 180) < 22); pull.current = { hue: near?.[0] ?? hue, from: near?.[1] ?? 0, gesture: `pull-${++pulls}` }; },
    move: (up) => { const p = pull.current, declared = stepKind('hueBands')!.params[band] as BandParameter; if (!p) return; const value = Math.min(declared.max, Math.max(declared.min, p.from + (up / 140) * declared.max)); set({ [band]: pulledHandles(params[band] as readonly BandHandle[], p.hue, Math.round(value * 1000) / 1000) }, 'Drag a hue', p.gesture); },
  } : null;
  return { tool, onTool, size, onSize, channel, onChannel, band, onBand, onShow, shown, passing: tool === 'range' || showing, onPick, onPull };
}

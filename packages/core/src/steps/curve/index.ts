import { luminanceShares } from '../../colour/luminance.ts';
import { decodeSrgb, encodeSrgb } from '../../colour/transfer.ts';
import { inLab, tableOver, type PointwisePass } from '../../render/pass.ts';
import { choice, defineStep, type CurveParameter, type CurvePoints } from '../../render/step.ts';
import { monotoneCubic } from './monotone.ts';

const intervals = 4096;
const straight = (points: CurvePoints): boolean =>
  points.every(([x, y]) => x === y) && points[0]![0] === 0 && points[points.length - 1]![0] === 1;
const curve = (label: string): CurveParameter => ({
  type: 'curve',
  label,
  default: [
    [0, 0],
    [1, 1],
  ],
});

/**
 * Point curves over sRGB-encoded values (of luminance, or OKLab L, where so chosen): one for all, then one for each channel.
 * Strength moves each value along its change.
 */
export const toneCurve = defineStep({
  kind: 'curve',
  lane: 'print',
  name: 'Tone curve',
  purpose: 'Shape dark, middle and light tones',
  atStrength: 'moves each value along its change',
  note: 'Values are sRGB-encoded, 0–1; points are [x, y], 2–24 of them, x rising',
  needs: ['contrast', 'lifted blacks', 'matte', 'softened whites', 'fade', 'levels'],
  params: {
    points: curve('Curve'),
    on: choice(
      'Acts on',
      [
        ['channels', 'each channel alike'],
        ['luminance', 'luminance, colour kept'],
        ['lightness', 'OKLab lightness'],
      ],
      'channels',
    ),
    red: curve('Red curve'),
    green: curve('Green curve'),
    blue: curve('Blue curve'),
  },
  compile: (params, strength) => {
    const all = params['points'] as CurvePoints,
      own = ['red', 'green', 'blue'].map((c) => params[c] as CurvePoints),
      on = params['on'],
      passes: PointwisePass[] = [];
    if (strength === 0) return [];
    const along = (points: CurvePoints): ((x: number) => number) => {
        const f = monotoneCubic(points);
        return (x) => Math.min(1, Math.max(0, x + strength * (f(x) - x)));
      },
      whole = along(all),
      overSrgb =
        (f: (x: number) => number) =>
        (t: number): number =>
          decodeSrgb(f(encodeSrgb(t * t)));
    if (!straight(all)) {
      if (on === 'channels') passes.push({ kernel: 'curve', parameters: Float32Array.from(tableOver(intervals, overSrgb(whole))) });
      else if (on === 'luminance')
        passes.push({
          kernel: 'curveLuminance',
          parameters: Float32Array.from([...luminanceShares, ...tableOver(intervals, overSrgb(whole))]),
        });
      else passes.push(...inLab('curveLightness', Float32Array.from(tableOver(intervals, whole))));
    }
    if (!own.every(straight))
      passes.push({
        kernel: 'curves',
        parameters: Float32Array.from([intervals, ...own.flatMap((p) => tableOver(intervals, overSrgb(along(p))).slice(1))]),
      });
    return passes;
  },
});

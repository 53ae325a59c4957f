import { stepKind, type NumberParameter } from '@dyepot/core';
import { arc } from 'd3';
import { Pipette } from 'lucide-react';
import { NumberControl } from '../kit/NumberControl.tsx';
import { useReadouts, type ReadoutSignal } from '../view/readoutSignal.ts';

const groups: [string, string[]][] = [
  ['Shift', ['hueShift', 'chromaShift', 'lightnessShift']],
  ['Even out toward it', ['evenHue', 'evenChroma', 'evenLightness']],
  ['How wide', ['hueWidth', 'chromaWidth', 'lightnessWidth', 'softness']],
];

/** A picked colour on the ring with its range, what is done to it, and the range shown over the picture while held. */
export function RangeControl({
  params,
  signal,
  picking,
  size,
  onPicking,
  onSize,
  onShow,
  onSet,
}: {
  params: Record<string, number>;
  signal: ReadoutSignal;
  picking: boolean;
  size: number;
  onPicking: (on: boolean) => void;
  onSize: (size: number) => void;
  onShow: (on: boolean) => void;
  onSet: (name: string, value: number, gesture: string) => void;
}): React.JSX.Element {
  const hues = useReadouts(signal)?.hues ?? null,
    declared = stepKind('colourRange')!.params,
    { hue = 0, chroma = 0, lightness = 0, hueWidth = 0, softness = 0 } = params,
    rad = (d: number): number => Math.PI / 2 - (d * Math.PI) / 180,
    top = hues ? Math.max(...hues) || 1 : 1;
  const wedge = (half: number): string =>
    arc()({ innerRadius: 34, outerRadius: 62, startAngle: rad(hue + half), endAngle: rad(hue - half) }) ?? '';
  return (
    <div className="range">
      <div className="range-head">
        <svg viewBox="-70 -70 140 140" role="img" aria-label={`Range round ${Math.round(hue)}°`}>
          {Array.from({ length: 72 }, (_, i) => (
            <path
              key={i}
              d={arc()({ innerRadius: 63, outerRadius: 68, startAngle: rad(i * 5 + 5), endAngle: rad(i * 5) }) ?? ''}
              fill={`oklch(0.72 0.13 ${i * 5 + 2.5})`}
            />
          ))}
          {hues &&
            Array.from(hues, (v, i) => (
              <path
                key={i}
                d={
                  arc()({
                    innerRadius: 34,
                    outerRadius: 34 + 26 * Math.sqrt(v / top),
                    startAngle: rad((i + 1) * 4),
                    endAngle: rad(i * 4),
                  }) ?? ''
                }
                fill="#5c5a58"
              />
            ))}
          <path d={wedge(hueWidth * (1 + softness / 200))} fill="#ffffff1c" />
          <path d={wedge(hueWidth * (1 - softness / 200))} fill="#ffffff30" stroke="#f1f0ef" strokeWidth="1" />
          <circle r="24" fill={`oklch(${lightness} ${chroma} ${hue})`} stroke="#f1f0ef" strokeWidth="1.2" />
        </svg>
        <div>
          <button type="button" className={`tool ${picking ? 'on' : ''}`} aria-pressed={picking} onClick={() => onPicking(!picking)}>
            <Pipette size={13} /> Pick a colour
          </button>
          <label className="inline">
            sample{' '}
            <select aria-label="Sample size" value={size} onChange={(e) => onSize(Number(e.target.value))}>
              {[1, 5, 11, 25].map((s) => (
                <option key={s} value={s}>
                  {s} px
                </option>
              ))}
            </select>
          </label>
          <button
            type="button"
            className="tool"
            onPointerDown={() => onShow(true)}
            onPointerUp={() => onShow(false)}
            onPointerLeave={() => onShow(false)}
            onKeyDown={(e) => {
              if (e.key === ' ' || e.key === 'Enter') onShow(true);
            }}
            onKeyUp={() => onShow(false)}
          >
            Hold to show the range
          </button>
        </div>
      </div>
      {groups.map(([title, names]) => (
        <section key={title}>
          <h3 className="part-head">{title}</h3>
          {names.map((n) => (
            <NumberControl
              key={n}
              parameter={declared[n] as NumberParameter}
              label={
                n.startsWith('even')
                  ? { evenHue: 'Hue, evened', evenChroma: 'Chroma, evened', evenLightness: 'Lightness, evened' }[n]!
                  : (declared[n] as NumberParameter).label
              }
              value={params[n]!}
              onChange={(v, g) => onSet(n, v, g)}
            />
          ))}
        </section>
      ))}
    </div>
  );
}

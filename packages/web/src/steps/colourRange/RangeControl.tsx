import { arc } from 'd3';
import { Pipette } from 'lucide-react';
import { Cell } from '../../kit/Cell.tsx';
import { useHold } from '../../kit/Handle.tsx';
import { arcAngle, hueWedges } from '../../kit/hueWedges.ts';
import { useCalmReadouts, type ReadoutSignal } from '../../view/readoutSignal.ts';
import { declared, type FittingProps } from '../fitting.ts';
import { Cells } from '../../kit/Cells.tsx';

const rows = [
  ['hue', 'hueShift', 'evenHue', 'hueWidth'],
  ['chroma', 'chromaShift', 'evenChroma', 'chromaWidth'],
  ['lightness', 'lightnessShift', 'evenLightness', 'lightnessWidth'],
] as const;

/** The hues round the ring; drawn once. */
const ring = (
  <>
    {Array.from({ length: 72 }, (_, i) => (
      <path
        key={i}
        d={arc()({ innerRadius: 63, outerRadius: 68, startAngle: arcAngle(i * 5 + 5), endAngle: arcAngle(i * 5) }) ?? ''}
        fill={`oklch(0.72 0.13 ${i * 5 + 2.5})`}
      />
    ))}
  </>
);

/** The picked colour on the ring, with the hues it takes in; its edge is drawn wider or narrower. */
function RangeRing({ numbers, signal, onSet }: Pick<FittingProps, 'numbers' | 'onSet'> & { signal: ReadoutSignal }): React.JSX.Element {
  const hues = useCalmReadouts(signal)?.hues ?? null,
    top = hues ? Math.max(...hues) || 1 : 1,
    { hue = 0, chroma = 0, lightness = 0, hueWidth = 0, softness = 0 } = numbers,
    wedge = (half: number): string =>
      arc()({ innerRadius: 34, outerRadius: 62, startAngle: arcAngle(hue + half), endAngle: arcAngle(hue - half) }) ?? '';
  const hold = useHold('Width in hue, on the ring', {
    up: { name: 'hueWidth', parameter: declared('colourRange', 'hueWidth'), value: hueWidth, at: (y) => -y },
    onSet: (values, gesture) => onSet('hueWidth', values['hueWidth']!, gesture),
  });
  return (
    <svg viewBox="-70 -70 140 140" role="group" aria-label={`Range round ${Math.round(hue)}°`}>
      {ring}
      {hues && <path d={hueWedges(34, (i) => 34 + 26 * Math.sqrt(hues[i]! / top))} fill="#5c5a58" />}
      <g {...hold} className="handle up">
        <path d={wedge(hueWidth * (1 + softness / 200))} fill="#ffffff1c" />
        <path d={wedge(hueWidth * (1 - softness / 200))} fill="#ffffff30" stroke="#f1f0ef" strokeWidth="1" />
      </g>
      <circle r="24" fill={`oklch(${lightness} ${chroma} ${hue})`} stroke="#f1f0ef" strokeWidth="1.2" />
    </svg>
  );
}

/** A picked colour, what is done to it, how wide its range is, and the range shown over the picture while held. */
export function RangeControl({ numbers, signal, tools, onSet }: FittingProps): React.JSX.Element {
  const picking = tools.tool === 'range';
  return (
    <div className="range">
      <div className="range-head">
        <RangeRing numbers={numbers} signal={signal} onSet={onSet} />
        <div>
          <button
            type="button"
            className={`tool ${picking ? 'on' : ''}`}
            aria-pressed={picking}
            onClick={() => tools.onTool(picking ? 'off' : 'range')}
          >
            <Pipette size={13} /> Pick a colour
          </button>
          <label className="inline">
            sample{' '}
            <select aria-label="Sample size" value={tools.size} onChange={(e) => tools.onSize(Number(e.target.value))}>
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
            onPointerDown={() => tools.onShow(true)}
            onPointerUp={() => tools.onShow(false)}
            onPointerLeave={() => tools.onShow(false)}
            onKeyDown={(e) => {
              if (e.key === ' ' || e.key === 'Enter') tools.onShow(true);
            }}
            onKeyUp={() => tools.onShow(false)}
            onBlur={() => tools.onShow(false)}
          >
            Hold to show
          </button>
          <label className="inline soft">
            softness
            <Cell
              parameter={declared('colourRange', 'softness')}
              value={numbers['softness']!}
              worded
              onChange={(v, g) => onSet('softness', v, g)}
            />
          </label>
        </div>
      </div>
      <Cells>
        <table className="grid-table" aria-label="What is done to the range, and how wide it is">
          <thead>
            <tr>
              <td />
              {['shift', 'even out', 'width'].map((w) => (
                <th key={w} scope="col">
                  {w}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map(([word, ...names]) => (
              <tr key={word}>
                <th scope="row">{word}</th>
                {names.map((name) => (
                  <td key={name}>
                    <Cell parameter={declared('colourRange', name)} value={numbers[name]!} worded onChange={(v, g) => onSet(name, v, g)} />
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </Cells>
      <p className="purpose">Skins, evened out, look natural at 30 to 50 %.</p>
    </div>
  );
}

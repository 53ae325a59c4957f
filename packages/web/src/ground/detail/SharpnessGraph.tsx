import { detailRanges, photosite, responseAt, returned, transfer, type Detail, type Optics } from '@dyepot/core';
import { area, line, range, scaleLinear, scaleLog } from 'd3';
import { Handle, type Axis } from '../../kit/Handle.tsx';
import { numbers, type DetailGraphProps, type DetailNumber } from './numbers.ts';

const W = 276,
  H = 150,
  foot = 16,
  /** sizes in px, coarse at the left */
  x = scaleLog([48, 1.3], [0, W]),
  y = scaleLinear([-1, detailRanges.gain[1]], [H - foot, 8]),
  sizes = range(0, 61).map((i) => 48 * (1.3 / 48) ** (i / 60)),
  /** where the softness returned is held */
  held = 2;

/** What comes of details by their size: what lens and sensor leave of them, what is returned of that, and what is added, held at its crest and feet. */
export function SharpnessGraph({
  values,
  sharpness,
  optics,
  onSet,
}: DetailGraphProps & { sharpness: Detail['sharpness']; optics: Optics }): React.JSX.Element {
  const left = (px: number): number => transfer(1 / px, optics, values.filterPx),
    share = values.share / 100,
    // of everything 1 would be left by perfect optics
    seen = (px: number, part = share): number => left(px) * photosite(1 / px) * (1 + part * (returned(left(px)) - 1)) - 1;
  const axis = (name: DetailNumber, at: Axis['at']): Axis => ({ name, parameter: numbers[name], value: values[name], at });
  const draw = (of: (px: number) => number): string =>
    line<number>()
      .x(x)
      .y((px) => y(of(px)))(sizes) ?? '';
  const span = seen(held, 1) - seen(held, 0);
  return (
    <svg className="drawing" viewBox={`0 0 ${W} ${H}`} role="group" aria-label="Sharpness by size of detail">
      <rect width={W} height={H} fill="#1f1f1f" />
      <path
        d={
          area<number>()
            .x(x)
            .y0(y(-1))
            .y1((px) => y(seen(px, 0)))(sizes) ?? ''
        }
        fill="#8a8886"
        opacity="0.35"
      />
      {[32, 16, 8, 4, 2].map((px) => (
        <g key={px}>
          <path d={`M${x(px)},0V${H - foot}`} stroke="#353535" />
          <text x={x(px)} y={H - 4} textAnchor="middle" className="on-dark">
            {px} px
          </text>
        </g>
      ))}
      {[1, 2, 3].map((v) => (
        <g key={v}>
          <path d={`M0,${y(v)}H${W}`} stroke="#2f2f2f" />
          <text x="4" y={y(v) + 11} className="on-dark">
            +{v} ×
          </text>
        </g>
      ))}
      <path d={`M0,${y(0)}H${W}`} stroke="#5c5a58" />
      {share > 0 && <path d={draw((px) => seen(px))} fill="none" stroke="#a3a19e" strokeWidth="1.5" strokeDasharray="4 3" />}
      <path d={draw((px) => responseAt(sharpness, px))} fill="none" stroke="#f1f0ef" strokeWidth="2" />
      {span > 0.01 && (
        <Handle
          x={x(held)}
          y={y(seen(held))}
          label="Softness returned, on the graph"
          up={axis('share', (place) => (100 * (y.invert(place) - seen(held, 0))) / span)}
          onSet={onSet}
        />
      )}
      <Handle x={x(values.coarsePx)} y={y(0)} label="Coarse foot, on the graph" along={axis('coarsePx', x.invert)} onSet={onSet} />
      <Handle x={x(Math.max(1.4, values.finePx))} y={y(0)} label="Fine foot, on the graph" along={axis('finePx', x.invert)} onSet={onSet} />
      <Handle
        x={x(values.sizePx)}
        y={y(values.gain)}
        fill="#f1f0ef"
        label="Crest, on the graph"
        along={axis('sizePx', x.invert)}
        up={axis('gain', y.invert)}
        onSet={onSet}
      />
    </svg>
  );
}

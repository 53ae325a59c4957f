import { gelTransmission, type KindName, type LookStep, type ParameterValue } from '@dyepot/core';
import type { FinishKind } from './finishKinds.ts';
import { H, path, W } from './drawingParts.ts';

/** Kinds not drawn by `StepDrawing` itself; the type checker holds that none is missing. */
type LightKind = Exclude<
  KindName,
  | 'curve'
  | 'neutral'
  | 'saturation'
  | 'hueBands'
  | 'colourRange'
  | 'vibrance'
  | 'cdl'
  | 'tableStock'
  | 'tablePrint'
  | 'grade'
  | 'mono'
  | 'crispness'
  | FinishKind
>;

/** What a step of the kinds that change light as it comes, or read it off tables, does, drawn small. */
export function sceneDrawing(name: LightKind, step: LookStep, p: Readonly<Record<string, ParameterValue>>): React.JSX.Element {
  const n = (name: string): number => p[name] as number;
  switch (name) {
    case 'film': {
      // a negative's curve: toe, straight part, shoulder
      const slope = 1 + n('contrast') / 100;
      return (
        <>
          <path d={path((t) => 0.08 + 0.84 / (1 + Math.exp(-7 * slope * (t - 0.5))))} stroke="#f1f0ef" strokeWidth="1.6" fill="none" />
          <path d={path((t) => 0.04 + 0.84 / (1 + Math.exp(-7 * slope * (t - 0.58))))} stroke="#e0633a" strokeWidth="1" fill="none" />
        </>
      );
    }
    case 'warmth': {
      const x = W / 2 + (n('shiftMired') / 90) * (W / 2 - 4) * Math.min(1, step.strength);
      return (
        <>
          <line x1={W / 2} x2={W / 2} y1="4" y2={H} stroke="#555" />
          <line x1="2" x2={W - 2} y1={H / 2 + 10} y2={H / 2 + 10} stroke="#484848" />
          <rect
            x={Math.min(W / 2, x)}
            y={H / 2 - 4}
            width={Math.max(1, Math.abs(x - W / 2))}
            height="8"
            fill={n('shiftMired') >= 0 ? '#e2a35c' : '#6f9bd1'}
          />
        </>
      );
    }
    case 'exposure': {
      const y = H / 2 - (n('shiftEv') / 3) * (H / 2 - 3);
      return (
        <>
          <line x1="8" x2={W - 8} y1={H / 2} y2={H / 2} stroke="#555" />
          <rect x={W / 2 - 12} y={Math.min(H / 2, y)} width="24" height={Math.max(1, Math.abs(y - H / 2))} fill="#cfcdca" />
        </>
      );
    }
    case 'contrast': {
      const k = 2 ** ((n('contrast') / 100) * step.strength),
        x = W / 2 + n('pivotEv') * 8;
      return (
        <>
          <line x1={x} x2={x} y1="4" y2={H} stroke="#484848" />
          <path d={path((t) => 0.5 + (t - x / W) * 0.7 * k)} stroke="#f1f0ef" strokeWidth="1.6" fill="none" />
        </>
      );
    }
    case 'localContrast':
      return (
        <>
          {['fine', 'medium', 'coarse'].map((name, i) => {
            const v = (n(name) / 100) * Math.min(2, step.strength),
              y = 8 + i * 11,
              a = 2.4 * (1 + v);
            return (
              <path
                key={name}
                d={Array.from(
                  { length: 39 },
                  (_, k) => `${k === 0 ? 'M' : 'L'}${k * 2},${y + a * Math.sin(k * [2.2, 1.1, 0.42][i]!)}`,
                ).join('')}
                stroke={v === 0 ? '#777' : '#f1f0ef'}
                strokeWidth="1.2"
                fill="none"
              />
            );
          })}
        </>
      );
    case 'haze':
      return (
        <>
          {[0, 1, 2, 3].map((i) => (
            <path
              key={i}
              d={`M0,${H - 4 - i * 7} q${W / 4},${-10 - i * 2} ${W / 2},-2 t${W / 2},-3 V${H} H0 z`}
              fill="#cfcdca"
              opacity={Math.max(0.08, 0.2 + (n('amount') / 100) * (i < 2 ? 0.2 : -0.12))}
            />
          ))}
        </>
      );
    case 'gel': {
      const t = gelTransmission(n('hue'), n('density') * step.strength);
      return (
        <>
          <rect x="8" y="5" width={W - 16} height={H - 10} rx="2" fill={`color(rec2020 ${t.map((v) => v ** 0.45).join(' ')})`} />
          <line
            x1={W / 2}
            x2={W / 2 + (n('mired') / 90) * (W / 2 - 8)}
            y1={H - 2}
            y2={H - 2}
            stroke={n('mired') >= 0 ? '#e2a35c' : '#6f9bd1'}
            strokeWidth="2"
          />
        </>
      );
    }
    case 'mixer':
      return (
        <>
          {(['red', 'green', 'blue'] as const).flatMap((to, j) =>
            (['Red', 'Green', 'Blue'] as const).map((from, i) => (
              <rect
                key={to + from}
                x={20 + i * 13}
                y={3 + j * 11}
                width="11"
                height="9"
                fill={['#d8675c', '#6fa868', '#6b8fd0'][i]}
                opacity={Math.min(1, 0.08 + Math.abs(n(`${to}From${from}`)) / 110)}
              />
            )),
          )}
        </>
      );
  }
}

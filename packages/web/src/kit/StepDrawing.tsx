import {
  applyTable,
  bandAt,
  cdlOf,
  defaultsOf,
  monotoneCubic,
  responseOf,
  readStoredTable,
  stepKind,
  type BandHandle,
  type CurvePoints,
  type KindName,
  type LookStep,
  type Rgb,
} from '@dyepot/core';
import { H, oklch, path, W } from './drawingParts.ts';
import { lazy, Suspense } from 'react';
import { isFinish } from './finishKinds.ts';
import { sceneDrawing } from './sceneDrawing.tsx';

const FinishDrawing = lazy(() => import('./finishDrawing.tsx').then((m) => ({ default: m.FinishDrawing })));
/** A small drawing of what a step does: its curve, its hues, its weights. */
export function StepDrawing({ step }: { step: LookStep }): React.JSX.Element {
  const kind = stepKind(step.kind),
    p = { ...(kind ? defaultsOf(kind) : {}), ...step.params };
  const n = (name: string): number => p[name] as number;
  const draw = (): React.ReactNode => {
    const name = step.kind as KindName;
    switch (name) {
      case 'curve': {
        const f = monotoneCubic(p['points'] as CurvePoints);
        return (
          <>
            <path d={path((t) => t)} stroke="#555" fill="none" />
            <path d={path((t) => t + step.strength * (f(t) - t))} stroke="#f1f0ef" strokeWidth="1.6" fill="none" />
          </>
        );
      }
      case 'neutral': {
        const shown = responseOf({ contrast: n('contrast'), whiteEv: n('whiteEv'), toe: 0 });
        return (
          <>
            <line x1={W / 2} x2={W / 2} y1="4" y2={H} stroke="#484848" />
            <path d={path((t) => Math.min(1, shown(0.18 * 2 ** (-5 + t * 9))) ** 0.42)} stroke="#f1f0ef" strokeWidth="1.6" fill="none" />
          </>
        );
      }
      case 'saturation':
        return (
          <>
            {Array.from({ length: 12 }, (_, i) => {
              const k = Math.max(0, 1 + (n('change') / 100) * step.strength);
              return (
                <rect key={i} x={4 + i * 5.8} y={H / 2 - 3 - 6 * k} width="5" height={6 + 12 * k * 0.8} fill={oklch(i * 30, 0.07 * k)} />
              );
            })}
          </>
        );
      case 'hueBands': {
        const y = (name: string, reach: number): string =>
          Array.from(
            { length: 39 },
            (_, k) =>
              `${k === 0 ? 'M' : 'L'}${k * 2},${H / 2 - (bandAt(p[name] as readonly BandHandle[], k * 9.6) / reach) * (H / 2 - 3) * Math.min(1, step.strength)}`,
          ).join('');
        return (
          <>
            {Array.from({ length: 19 }, (_, i) => (
              <rect key={i} x={i * 4} y={H - 4} width="4.2" height="4" fill={oklch(i * 19, 0.12)} />
            ))}
            <path d={y('hue', 60)} stroke="#e6b35a" strokeWidth="1.3" fill="none" />
            <path d={y('chroma', 100)} stroke="#a9a6a2" strokeWidth="1.3" fill="none" />
            <path d={y('lightness', 0.4)} stroke="#f1f0ef" strokeWidth="1.3" fill="none" />
          </>
        );
      }
      case 'colourRange':
        return (
          <>
            <circle cx={W / 2} cy={H / 2} r="14" fill={oklch(n('hue'), n('chroma'), n('lightness'))} />
            <circle
              cx={W / 2 + 15}
              cy={H / 2}
              r="8"
              fill={oklch(
                n('hue') + n('hueShift') * Math.min(2, step.strength),
                n('chroma') * (1 + (n('chromaShift') / 100) * step.strength),
                n('lightness') + n('lightnessShift') * step.strength,
              )}
              stroke="#2b2b2b"
            />
          </>
        );
      case 'vibrance':
        return (
          <>
            {Array.from({ length: 12 }, (_, i) => {
              const k = Math.max(0, 1 + (n('change') / 100) * step.strength * (1 - i / 12));
              return (
                <rect
                  key={i}
                  x={4 + i * 5.8}
                  y={H - 4 - (4 + i * 1.6) * k}
                  width="5"
                  height={(4 + i * 1.6) * k}
                  fill={oklch(250, 0.02 + i * 0.012)}
                />
              );
            })}
          </>
        );
      case 'cdl': {
        const c = cdlOf(p);
        return (
          <>
            {[0, 1, 2].map((i) => (
              <path
                key={i}
                d={path((t) => Math.max(0, t * c.slope[i]! + c.offset[i]!) ** c.power[i]!)}
                stroke={['#d8675c', '#6fa868', '#6b8fd0'][i]}
                strokeWidth="1.3"
                fill="none"
              />
            ))}
          </>
        );
      }
      case 'tablePrint':
      case 'tableStock': {
        const read = p['table'] ? readStoredTable(p['table']) : null;
        if (!read || !('table' in read)) return <path d={path((t) => t)} stroke="#777" strokeDasharray="3 3" fill="none" />;
        const { table } = read;
        return (
          <>
            {[0, 1, 2].map((i) => (
              <path
                key={i}
                d={path(
                  (t) =>
                    applyTable(
                      table,
                      [0, 1, 2].map((k) => table.domainMin[k]! + t * (table.domainMax[k]! - table.domainMin[k]!)) as unknown as Rgb,
                    )[i]!,
                )}
                stroke={['#d8675c', '#6fa868', '#6b8fd0'][i]}
                strokeWidth="1.3"
                fill="none"
              />
            ))}
          </>
        );
      }
      case 'grade':
        return (
          <>
            <circle cx={W / 2} cy={H / 2} r="16" fill="none" stroke="#666" />
            {(['darks', 'mids', 'lights', 'all'] as const)
              .filter((r) => r !== 'all' || n('allChroma') > 0)
              .map((r) => {
                const a = (n(`${r}Hue`) * Math.PI) / 180,
                  d = (n(`${r}Chroma`) / 0.15) * 32 * Math.min(1, step.strength);
                return (
                  <circle
                    key={r}
                    cx={W / 2 + Math.cos(a) * Math.min(16, d)}
                    cy={H / 2 - Math.sin(a) * Math.min(16, d)}
                    r="3.6"
                    fill={oklch(n(`${r}Hue`), n(`${r}Chroma`) * 2.2, r === 'darks' ? 0.5 : r === 'mids' ? 0.66 : 0.84)}
                    stroke="#2b2b2b"
                  />
                );
              })}
          </>
        );
      case 'mono':
        return (
          <>
            {(['red', 'green', 'blue'] as const).map((c, i) => {
              const h = (n(c) / 100) * 24;
              return (
                <rect
                  key={c}
                  x={17 + i * 15}
                  y={h >= 0 ? H - 6 - h : H - 6}
                  width="11"
                  height={Math.max(1, Math.abs(h))}
                  fill={['#b98a84', '#8fa78c', '#8793ad'][i]}
                />
              );
            })}
            <line x1="10" x2={W - 10} y1={H - 6} y2={H - 6} stroke="#666" />
          </>
        );
      case 'crispness': {
        const over = (n('amount') / 100) * Math.min(2, step.strength) * 0.1,
          spread = 0.04 + 0.12 * n('size');
        return (
          <path
            d={path((t) => {
              const d = (t - 0.5) / spread;
              return 0.5 + 0.28 * Math.tanh(d * 3) + over * d * Math.exp(-d * d) * 3;
            })}
            stroke="#f1f0ef"
            strokeWidth="1.6"
            fill="none"
          />
        );
      }
      default:
        return isFinish(name) ? (
          <Suspense>
            <FinishDrawing name={name} step={step} params={p} />
          </Suspense>
        ) : (
          sceneDrawing(name, step, p)
        );
    }
  };
  return (
    <svg viewBox={`0 0 ${W} ${H}`} className="step-drawing" aria-hidden="true">
      {draw()}
    </svg>
  );
}

import { defaultsOf, monotoneCubic, neutralCoefficients, stepKind, type CurvePoints, type LookStep } from '@dyepot/core';

const W = 76, H = 38;
const path = (f: (t: number) => number): string => Array.from({ length: 33 }, (_, i) => `${i === 0 ? 'M' : 'L'}${(i / 32) * W},${H - 2 - Math.min(1, Math.max(0, f(i / 32))) * (H - 4)}`).join('');
const oklch = (hue: number, chroma: number, l = 0.72): string => `oklch(${l} ${Math.max(0.02, chroma)} ${hue})`;

/** A small drawing of what a step does: its curve, its hues, its weights. */
export function StepDrawing({ step }: { step: LookStep }): React.JSX.Element {
  const kind = stepKind(step.kind), p = { ...(kind ? defaultsOf(kind) : {}), ...step.params };
  const n = (name: string): number => p[name] as number;
  const draw = (): React.ReactNode => {
    switch (step.kind) {
      case 'curve': { const f = monotoneCubic(p['points'] as CurvePoints); return <><path d={path((t) => t)} stroke="#555" fill="none" /><path d={path((t) => t + step.strength * (f(t) - t))} stroke="#f1f0ef" strokeWidth="1.6" fill="none" /></>; }
      case 'neutral': { const c = neutralCoefficients(n('contrast'), n('whiteEv')); return <><line x1={W / 2} x2={W / 2} y1="4" y2={H} stroke="#484848" /><path d={path((t) => { const x = 0.18 * 2 ** (-5 + t * 9), q = x ** c.n; return Math.min(1, (c.gain * q) / (1 + c.kappa * q)) ** 0.42; })} stroke="#f1f0ef" strokeWidth="1.6" fill="none" /></>; }
      case 'warmth': { const x = W / 2 + (n('shiftMired') / 90) * (W / 2 - 4) * Math.min(1, step.strength); return <><line x1={W / 2} x2={W / 2} y1="4" y2={H} stroke="#555" /><line x1="2" x2={W - 2} y1={H / 2 + 10} y2={H / 2 + 10} stroke="#484848" /><rect x={Math.min(W / 2, x)} y={H / 2 - 4} width={Math.max(1, Math.abs(x - W / 2))} height="8" fill={n('shiftMired') >= 0 ? '#e2a35c' : '#6f9bd1'} /></>; }
      case 'exposure': { const y = H / 2 - (n('shiftEv') / 3) * (H / 2 - 3); return <><line x1="8" x2={W - 8} y1={H / 2} y2={H / 2} stroke="#555" /><rect x={W / 2 - 12} y={Math.min(H / 2, y)} width="24" height={Math.max(1, Math.abs(y - H / 2))} fill="#cfcdca" /></>; }
      case 'saturation': return <>{Array.from({ length: 12 }, (_, i) => { const k = Math.max(0, 1 + (n('change') / 100) * step.strength); return <rect key={i} x={4 + i * 5.8} y={H / 2 - 3 - 6 * k} width="5" height={6 + 12 * k * 0.8} fill={oklch(i * 30, 0.07 * k)} />; })}</>;
      case 'grade': return <><circle cx={W / 2} cy={H / 2} r="16" fill="none" stroke="#666" />{(['darks', 'mids', 'lights'] as const).map((r) => { const a = (n(`${r}Hue`) * Math.PI) / 180, d = (n(`${r}Chroma`) / 0.15) * 32 * Math.min(1, step.strength) ; return <circle key={r} cx={W / 2 + Math.cos(a) * Math.min(16, d)} cy={H / 2 - Math.sin(a) * Math.min(16, d)} r="3.6" fill={oklch(n(`${r}Hue`), n(`${r}Chroma`) * 2.2, r === 'darks' ? 0.5 : r === 'mids' ? 0.66 : 0.84)} stroke="#2b2b2b" />; })}</>;
      case 'mono': return <>{(['red', 'green', 'blue'] as const).map((c, i) => { const h = (n(c) / 100) * 24; return <rect key={c} x={17 + i * 15} y={h >= 0 ? H - 6 - h : H - 6} width="11" height={Math.max(1, Math.abs(h))} fill={['#b98a84', '#8fa78c', '#8793ad'][i]} />; })}<line x1="10" x2={W - 10} y1={H - 6} y2={H - 6} stroke="#666" /></>;
      default: return null;
    }
  };
  return <svg viewBox={`0 0 ${W} ${H}`} className="step-drawing" aria-hidden="true">{draw()}</svg>;
}

import { monotoneCubic, type CurvePoints } from '@dyepot/core';
import { path, type Drawn } from '../drawing.tsx';

export default function Drawing({ step, p }: Drawn): React.JSX.Element {
  const f = monotoneCubic(p['points'] as CurvePoints);
  return (
    <>
      <path d={path((t) => t)} stroke="#555" fill="none" />
      <path d={path((t) => t + step.strength * (f(t) - t))} stroke="#f1f0ef" strokeWidth="1.6" fill="none" />
    </>
  );
}

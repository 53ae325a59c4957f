import { bandAt, type BandHandle } from '@dyepot/core';
import { H, oklch, type Drawn } from '../drawing.tsx';

export default function Drawing({ step, p }: Drawn): React.JSX.Element {
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

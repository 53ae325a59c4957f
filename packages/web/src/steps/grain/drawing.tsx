import { Frame, specks, type Drawn } from '../drawing.tsx';

export default function Drawing({ step, n }: Drawn): React.JSX.Element {
  const s = Math.min(1, step.strength);
  return (
    <>
      <Frame />
      {specks.map(([x, y, k], i) => (
        <circle
          key={i}
          cx={x}
          cy={y}
          r={0.4 + n('size') / 18}
          fill={k % 2 === 0 ? '#111' : '#fff'}
          opacity={Math.min(0.7, (n('rms') / 40) * s * (0.5 + k / 8))}
        />
      ))}
    </>
  );
}

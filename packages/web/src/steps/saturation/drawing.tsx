import { H, oklch, type Drawn } from '../drawing.tsx';

export default function Drawing({ step, n }: Drawn): React.JSX.Element {
  return (
    <>
      {Array.from({ length: 12 }, (_, i) => {
        const k = Math.max(0, 1 + (n('change') / 100) * step.strength);
        return <rect key={i} x={4 + i * 5.8} y={H / 2 - 3 - 6 * k} width="5" height={6 + 12 * k * 0.8} fill={oklch(i * 30, 0.07 * k)} />;
      })}
    </>
  );
}

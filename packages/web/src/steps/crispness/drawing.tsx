import { path, type Drawn } from '../drawing.tsx';

export default function Drawing({ step, n }: Drawn): React.JSX.Element {
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

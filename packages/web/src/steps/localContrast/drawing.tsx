import { type Drawn } from '../drawing.tsx';

export default function Drawing({ step, n }: Drawn): React.JSX.Element {
  return (
    <>
      {['fine', 'medium', 'coarse'].map((name, i) => {
        const v = (n(name) / 100) * Math.min(2, step.strength),
          y = 8 + i * 11,
          a = 2.4 * (1 + v);
        return (
          <path
            key={name}
            d={Array.from({ length: 39 }, (_, k) => `${k === 0 ? 'M' : 'L'}${k * 2},${y + a * Math.sin(k * [2.2, 1.1, 0.42][i]!)}`).join(
              '',
            )}
            stroke={v === 0 ? '#777' : '#f1f0ef'}
            strokeWidth="1.2"
            fill="none"
          />
        );
      })}
    </>
  );
}

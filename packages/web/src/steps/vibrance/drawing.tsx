import { H, oklch, type Drawn } from '../drawing.tsx';

export default function Drawing({ step, n }: Drawn): React.JSX.Element {
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
}

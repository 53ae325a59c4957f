import { H, type Drawn } from '../drawing.tsx';

export default function Drawing({ step, n }: Drawn): React.JSX.Element {
  const s = Math.min(1, step.strength);
  return (
    <>
      {Array.from({ length: 12 }, (_, i) => {
        const L = 0.12 + i * 0.075,
          dark = L < n('turn') / 100;
        return (
          <rect
            key={i}
            x={8 + i * 5}
            y="8"
            width="5.4"
            height={H - 16}
            fill={`oklch(${L} ${n(dark ? 'darksChroma' : 'lightsChroma') * s} ${n(dark ? 'darksHue' : 'lightsHue')})`}
          />
        );
      })}
    </>
  );
}

import { H, W, box, Frame, type Drawn } from '../drawing.tsx';

export default function Drawing({ step, n }: Drawn): React.JSX.Element {
  const s = Math.min(1, step.strength);
  return (
    <>
      <Frame />
      <g opacity={0.25 + (n('opacity') / 140) * s} transform={`rotate(${n('turn')} ${W / 2} ${H / 2})`}>
        {[0, 1, 2, 3, 4, 5].map((i) => (
          <path key={i} d={`M${box.x + i * 8},${box.y}v${box.height}`} stroke="#f1f0ef" strokeWidth={1 + (i % 3)} />
        ))}
      </g>
    </>
  );
}

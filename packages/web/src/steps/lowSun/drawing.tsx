import { box, oklch, Frame, type Drawn } from '../drawing.tsx';

export default function Drawing({ step, n }: Drawn): React.JSX.Element {
  const s = Math.min(1, step.strength),
    cx = box.x + (n('x') / 100) * box.width,
    cy = box.y + (n('y') / 100) * box.height;
  return (
    <>
      <Frame />
      {[22, 13, 6].map((r) => (
        <circle key={r} cx={cx} cy={cy} r={r} fill={oklch(75, 0.12, 0.84)} opacity={0.1 + (n('light') / 300) * s} />
      ))}
    </>
  );
}

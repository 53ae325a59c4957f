import { H, W, oklch, type Drawn } from '../drawing.tsx';

export default function Drawing({ step, n }: Drawn): React.JSX.Element {
  const s = Math.min(1, step.strength);

  const wide = step.kind === 'glow' ? 15 : 9,
    fill = step.kind === 'glow' && n('colour') === 0 ? '#f1f0ef' : oklch(n('hue'), 0.15);
  return (
    <>
      {[1, 0.66, 0.36].map((k) => (
        <circle key={k} cx={W / 2} cy={H / 2} r={3 + wide * k} fill={fill} opacity={0.08 + (n('share') / 160) * s} />
      ))}
      <circle cx={W / 2} cy={H / 2} r="3.5" fill="#fff" />
    </>
  );
}

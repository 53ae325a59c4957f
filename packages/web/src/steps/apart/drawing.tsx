import { H, W, oklch, type Drawn } from '../drawing.tsx';

export default function Drawing({ step, n }: Drawn): React.JSX.Element {
  const s = Math.min(1, step.strength);
  return (
    <>
      <line x1={W / 2} x2={W / 2} y1="4" y2={H - 4} stroke="#555" />
      <circle cx={W / 2 - 18 + n('coolWarmer') * 0.1 * s} cy={H / 2} r={7 + n('coolColour') * 0.05 * s} fill={oklch(238, 0.1)} />
      <circle cx={W / 2 + 18 + n('warmWarmer') * 0.1 * s} cy={H / 2} r={7 + n('warmColour') * 0.05 * s} fill={oklch(58, 0.12)} />
    </>
  );
}

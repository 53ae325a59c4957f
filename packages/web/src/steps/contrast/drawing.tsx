import { H, W, path, type Drawn } from '../drawing.tsx';

export default function Drawing({ step, n }: Drawn): React.JSX.Element {
  const k = 2 ** ((n('contrast') / 100) * step.strength),
    x = W / 2 + n('pivotEv') * 8;
  return (
    <>
      <line x1={x} x2={x} y1="4" y2={H} stroke="#484848" />
      <path d={path((t) => 0.5 + (t - x / W) * 0.7 * k)} stroke="#f1f0ef" strokeWidth="1.6" fill="none" />
    </>
  );
}

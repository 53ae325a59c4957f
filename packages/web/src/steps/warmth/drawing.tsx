import { H, W, type Drawn } from '../drawing.tsx';

export default function Drawing({ step, n }: Drawn): React.JSX.Element {
  const x = W / 2 + (n('shiftMired') / 90) * (W / 2 - 4) * Math.min(1, step.strength);
  return (
    <>
      <line x1={W / 2} x2={W / 2} y1="4" y2={H} stroke="#555" />
      <line x1="2" x2={W - 2} y1={H / 2 + 10} y2={H / 2 + 10} stroke="#484848" />
      <rect
        x={Math.min(W / 2, x)}
        y={H / 2 - 4}
        width={Math.max(1, Math.abs(x - W / 2))}
        height="8"
        fill={n('shiftMired') >= 0 ? '#e2a35c' : '#6f9bd1'}
      />
    </>
  );
}

import { H, W, type Drawn } from '../drawing.tsx';

export default function Drawing({ step, n }: Drawn): React.JSX.Element {
  const s = Math.min(1, step.strength);
  return (
    <>
      <path d={`M8,${H - 5}L${W - 8},5`} stroke="#555" />
      <path
        d={`M8,${H - 5 - (n('lift') / 100) * 56 * s}L${W - 8},${5 + (n('soften') / 100) * 56 * s}`}
        stroke="#f1f0ef"
        strokeWidth="1.6"
      />
    </>
  );
}

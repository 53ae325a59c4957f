import { H, W, type Drawn } from '../drawing.tsx';

export default function Drawing({ n }: Drawn): React.JSX.Element {
  const y = H / 2 - (n('shiftEv') / 3) * (H / 2 - 3);
  return (
    <>
      <line x1="8" x2={W - 8} y1={H / 2} y2={H / 2} stroke="#555" />
      <rect x={W / 2 - 12} y={Math.min(H / 2, y)} width="24" height={Math.max(1, Math.abs(y - H / 2))} fill="#cfcdca" />
    </>
  );
}

import { box, Frame, type Drawn } from '../drawing.tsx';

export default function Drawing({ step, n }: Drawn): React.JSX.Element {
  const s = Math.min(1, step.strength);

  const by = (n('width') / 100) * 48 * s;
  return (
    <>
      <Frame fill={`oklch(${n('lightness') / 100} ${n('chroma')} ${n('hue')})`} />
      <rect x={box.x + by} y={box.y + by} width={box.width - 2 * by} height={box.height - 2 * by} fill="#5c5a58" />
    </>
  );
}

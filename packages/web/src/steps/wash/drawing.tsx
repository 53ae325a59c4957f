import { box, oklch, Frame, type Drawn } from '../drawing.tsx';

export default function Drawing({ step, n }: Drawn): React.JSX.Element {
  const s = Math.min(1, step.strength);
  return (
    <>
      <Frame />
      <rect {...box} fill={oklch(n('hue'), n('chroma'), n('lightness'))} opacity={0.2 + (n('opacity') / 125) * s} />
    </>
  );
}

import { H, W, oklch, type Drawn } from '../drawing.tsx';

export default function Drawing({ step, n }: Drawn): React.JSX.Element {
  return (
    <>
      <circle cx={W / 2} cy={H / 2} r="14" fill={oklch(n('hue'), n('chroma'), n('lightness'))} />
      <circle
        cx={W / 2 + 15}
        cy={H / 2}
        r="8"
        fill={oklch(
          n('hue') + n('hueShift') * Math.min(2, step.strength),
          n('chroma') * (1 + (n('chromaShift') / 100) * step.strength),
          n('lightness') + n('lightnessShift') * step.strength,
        )}
        stroke="#2b2b2b"
      />
    </>
  );
}

import { box, H, W, Frame, type Drawn } from '../drawing.tsx';

export default function Drawing({ step, n }: Drawn): React.JSX.Element {
  const s = Math.min(1, step.strength),
    cx = box.x + (n('x') / 100) * box.width,
    cy = box.y + (n('y') / 100) * box.height;
  return (
    <>
      <clipPath id={`vignette-${step.id}`}>
        <rect {...box} />
      </clipPath>
      <Frame />
      <path
        clipPath={`url(#vignette-${step.id})`}
        d={`M0,0H${W}V${H}H0ZM${cx - n('size') * 0.2},${cy}a${n('size') * 0.2},${n('size') * 0.14} 0 0 0 ${n('size') * 0.4},0a${n('size') * 0.2},${n('size') * 0.14} 0 0 0 ${-n('size') * 0.4},0Z`}
        fillRule="evenodd"
        fill={n('edgeEv') > 0 ? '#fff' : '#000'}
        opacity={Math.min(0.8, Math.abs(n('edgeEv')) * 0.45 * s)}
      />
    </>
  );
}

import { oklch, box, Frame, type Drawn } from '../drawing.tsx';

export default function Drawing({ step, p, n }: Drawn): React.JSX.Element {
  const s = Math.min(1, step.strength);

  const edge = p['edge'] as string,
    along = n('place') / 100,
    x = edge === 'left' ? box.x : edge === 'right' ? box.x + box.width : box.x + along * box.width,
    y = edge === 'top' ? box.y : edge === 'bottom' ? box.y + box.height : box.y + along * box.height;
  return (
    <>
      <clipPath id={`leak-${step.id}`}>
        <rect {...box} />
      </clipPath>
      <Frame />
      <g clipPath={`url(#leak-${step.id})`}>
        {[1, 0.6, 0.3].map((k) => (
          <circle
            key={k}
            cx={x}
            cy={y}
            r={(n('reach') / 100) * 48 * k}
            fill={oklch(n('hue'), 0.15, 0.78)}
            opacity={0.12 + (n('light') / 260) * s}
          />
        ))}
      </g>
    </>
  );
}

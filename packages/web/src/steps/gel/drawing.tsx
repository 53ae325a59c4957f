import { gelTransmission } from '@dyepot/core';
import { H, W, type Drawn } from '../drawing.tsx';

export default function Drawing({ step, n }: Drawn): React.JSX.Element {
  const t = gelTransmission(n('hue'), n('density') * step.strength);
  return (
    <>
      <rect x="8" y="5" width={W - 16} height={H - 10} rx="2" fill={`color(rec2020 ${t.map((v) => v ** 0.45).join(' ')})`} />
      <line
        x1={W / 2}
        x2={W / 2 + (n('mired') / 90) * (W / 2 - 8)}
        y1={H - 2}
        y2={H - 2}
        stroke={n('mired') >= 0 ? '#e2a35c' : '#6f9bd1'}
        strokeWidth="2"
      />
    </>
  );
}

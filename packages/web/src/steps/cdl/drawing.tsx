import { cdlOf } from '@dyepot/core';
import { path, type Drawn } from '../drawing.tsx';

export default function Drawing({ p }: Drawn): React.JSX.Element {
  const c = cdlOf(p);
  return (
    <>
      {[0, 1, 2].map((i) => (
        <path
          key={i}
          d={path((t) => Math.max(0, t * c.slope[i]! + c.offset[i]!) ** c.power[i]!)}
          stroke={['#d8675c', '#6fa868', '#6b8fd0'][i]}
          strokeWidth="1.3"
          fill="none"
        />
      ))}
    </>
  );
}

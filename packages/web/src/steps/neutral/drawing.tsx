import { responseOf } from '@dyepot/core';
import { H, W, path, type Drawn } from '../drawing.tsx';

export default function Drawing({ n }: Drawn): React.JSX.Element {
  const shown = responseOf({ contrast: n('contrast'), whiteEv: n('whiteEv'), toe: 0 });
  return (
    <>
      <line x1={W / 2} x2={W / 2} y1="4" y2={H} stroke="#484848" />
      <path d={path((t) => Math.min(1, shown(0.18 * 2 ** (-5 + t * 9))) ** 0.42)} stroke="#f1f0ef" strokeWidth="1.6" fill="none" />
    </>
  );
}

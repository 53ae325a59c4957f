import { H, W, type Drawn } from '../drawing.tsx';

export default function Drawing({ n }: Drawn): React.JSX.Element {
  return (
    <>
      {[0, 1, 2, 3].map((i) => (
        <path
          key={i}
          d={`M0,${H - 4 - i * 7} q${W / 4},${-10 - i * 2} ${W / 2},-2 t${W / 2},-3 V${H} H0 z`}
          fill="#cfcdca"
          opacity={Math.max(0.08, 0.2 + (n('amount') / 100) * (i < 2 ? 0.2 : -0.12))}
        />
      ))}
    </>
  );
}

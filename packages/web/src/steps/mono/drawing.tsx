import { H, W, type Drawn } from '../drawing.tsx';

export default function Drawing({ n }: Drawn): React.JSX.Element {
  return (
    <>
      {(['red', 'green', 'blue'] as const).map((c, i) => {
        const h = (n(c) / 100) * 24;
        return (
          <rect
            key={c}
            x={17 + i * 15}
            y={h >= 0 ? H - 6 - h : H - 6}
            width="11"
            height={Math.max(1, Math.abs(h))}
            fill={['#b98a84', '#8fa78c', '#8793ad'][i]}
          />
        );
      })}
      <line x1="10" x2={W - 10} y1={H - 6} y2={H - 6} stroke="#666" />
    </>
  );
}

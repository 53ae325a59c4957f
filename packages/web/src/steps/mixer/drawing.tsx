import { type Drawn } from '../drawing.tsx';

export default function Drawing({ n }: Drawn): React.JSX.Element {
  return (
    <>
      {(['red', 'green', 'blue'] as const).flatMap((to, j) =>
        (['Red', 'Green', 'Blue'] as const).map((from, i) => (
          <rect
            key={to + from}
            x={20 + i * 13}
            y={3 + j * 11}
            width="11"
            height="9"
            fill={['#d8675c', '#6fa868', '#6b8fd0'][i]}
            opacity={Math.min(1, 0.08 + Math.abs(n(`${to}From${from}`)) / 110)}
          />
        )),
      )}
    </>
  );
}

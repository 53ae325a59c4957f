import { H, W, oklch, type Drawn } from '../drawing.tsx';

export default function Drawing({ step, n }: Drawn): React.JSX.Element {
  return (
    <>
      <circle cx={W / 2} cy={H / 2} r="16" fill="none" stroke="#666" />
      {(['darks', 'mids', 'lights', 'all'] as const)
        .filter((r) => r !== 'all' || n('allChroma') > 0)
        .map((r) => {
          const a = (n(`${r}Hue`) * Math.PI) / 180,
            d = (n(`${r}Chroma`) / 0.15) * 32 * Math.min(1, step.strength);
          return (
            <circle
              key={r}
              cx={W / 2 + Math.cos(a) * Math.min(16, d)}
              cy={H / 2 - Math.sin(a) * Math.min(16, d)}
              r="3.6"
              fill={oklch(n(`${r}Hue`), n(`${r}Chroma`) * 2.2, r === 'darks' ? 0.5 : r === 'mids' ? 0.66 : 0.84)}
              stroke="#2b2b2b"
            />
          );
        })}
    </>
  );
}

import { useId } from 'react';

/** The hues round a disc. */
const rainbow = (chroma: number, l: number): string =>
  `conic-gradient(from 90deg, ${Array.from({ length: 37 }, (_, i) => `oklch(${l} ${chroma} ${360 - i * 10})`).join()})`;

/** Wedges round the middle of a drawing, each in its hue: one shape cut out of all hues. `radius`: how far they reach at most. */
export function HueFan({
  wedges,
  radius,
  chroma,
  lightness,
}: {
  wedges: string;
  radius: number;
  chroma: number;
  lightness: number;
}): React.JSX.Element {
  const cut = useId();
  return (
    <>
      <clipPath id={cut}>
        <path d={wedges} />
      </clipPath>
      <foreignObject x={-radius} y={-radius} width={2 * radius} height={2 * radius} clipPath={`url(#${cut})`}>
        <div style={{ height: '100%', background: rainbow(chroma, lightness) }} />
      </foreignObject>
    </>
  );
}

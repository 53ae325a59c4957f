import { useEffect, useRef } from 'react';

/** Pixels at either end of the scale, each in the colour of the channels that clip; drawn anew with `painted`. */
export function ClipMarks({
  canvas,
  clipping: { black, white },
  painted,
  style,
}: {
  canvas: React.RefObject<HTMLCanvasElement | null>;
  clipping: { black: boolean; white: boolean };
  painted: number;
  style: React.CSSProperties;
}): React.JSX.Element {
  const marks = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const c = canvas.current,
      m = marks.current;
    if (!c || !m || c.width === 0) return;
    m.width = c.width;
    m.height = c.height;
    const pixels = c.getContext('2d')!.getImageData(0, 0, c.width, c.height),
      { data } = pixels;
    for (let i = 0; i < data.length; i += 4) {
      const high = [0, 1, 2].map((k) => data[i + k] === 255),
        low = [0, 1, 2].map((k) => data[i + k] === 0),
        lightEnd = white && high.some(Boolean),
        darkEnd = black && low.some(Boolean);
      data[i + 3] = lightEnd || darkEnd ? 255 : 0;
      for (let k = 0; k < 3; k++)
        data[i + k] = lightEnd ? (high.every(Boolean) ? 20 : high[k] ? 255 : 30) : low.every(Boolean) ? 235 : low[k] ? 40 : 150;
    }
    m.getContext('2d')!.putImageData(pixels, 0, 0);
  }, [canvas, painted, black, white]);
  return <canvas ref={marks} data-testid="clipping" className="marks" style={style} />;
}

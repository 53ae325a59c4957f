import { zoneOf } from '@dyepot/core';
import { useEffect, useRef, useState } from 'react';

const numerals = ['0', 'I', 'II', 'III', 'IV', 'V', 'VI', 'VII', 'VIII', 'IX', 'X'],
  /** linear light of each code (IEC 61966-2-1) */
  light = Float32Array.from({ length: 256 }, (_, i) => (i <= 10 ? i / 255 / 12.92 : ((i / 255 + 0.055) / 1.055) ** 2.4)),
  encoded = (v: number): number => Math.round(255 * (v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055)),
  /** luminance of a CIE 1976 lightness */
  luminanceOf = (l: number): number => (l > 8 ? ((l + 16) / 116) ** 3 : (l * 27) / 24389),
  /** the grey a zone is shown as: ten of L* apart, so that V is middle grey and X paper white */
  greys = numerals.map((_, z) => encoded(luminanceOf(10 * z)));

/** The zones 0–X of the picture as flat greys, middle grey in V and white in X, with how much of the picture lies in each. */
export function ZoneMarks({
  canvas,
  painted,
  style,
}: {
  canvas: React.RefObject<HTMLCanvasElement | null>;
  painted: number;
  style: React.CSSProperties;
}): React.JSX.Element {
  const marks = useRef<HTMLCanvasElement>(null),
    [shares, setShares] = useState<readonly number[]>([]);
  useEffect(() => {
    const c = canvas.current,
      m = marks.current;
    if (!c || !m || c.width === 0) return;
    m.width = c.width;
    m.height = c.height;
    const context = m.getContext('2d', { willReadFrequently: true })!;
    // single grains are no zones
    context.filter = 'blur(1.5px)';
    context.drawImage(c, 0, 0);
    context.filter = 'none';
    const pixels = context.getImageData(0, 0, c.width, c.height),
      { data } = pixels,
      counts = numerals.map(() => 0);
    for (let i = 0; i < data.length; i += 4) {
      const y = 0.2126 * light[data[i]!]! + 0.7152 * light[data[i + 1]!]! + 0.0722 * light[data[i + 2]!]!,
        zone = Math.round(zoneOf(y));
      counts[zone]!++;
      data[i] = data[i + 1] = data[i + 2] = greys[zone]!;
      data[i + 3] = 255;
    }
    context.putImageData(pixels, 0, 0);
    setShares(counts.map((n) => n / (data.length / 4)));
  }, [canvas, painted]);
  return (
    <>
      <canvas ref={marks} data-testid="zones" className="marks" style={style} />
      <ol className="zone-scale" aria-label="Zones and how much of the picture lies in each">
        {numerals.map((n, z) => (
          <li key={n} style={{ background: `rgb(${greys[z]} ${greys[z]} ${greys[z]})`, color: z < 5 ? '#fff' : '#111' }}>
            <b>{n}</b>
            <small>{shares[z] === undefined ? '' : shares[z]! < 0.005 && shares[z]! > 0 ? '<1' : Math.round(shares[z]! * 100)}</small>
          </li>
        ))}
      </ol>
    </>
  );
}

import { hueBins, oklabOf8, skinHue, vectorReach, vectorSide, waveHeight, waveWidth, type Readouts } from '@dyepot/core';
import { max, scaleLinear, scaleSqrt } from 'd3';
import { useEffect, useRef } from 'react';
import { oklch } from './cssLight.ts';
import { HueFan } from './HueFan.tsx';
import { hueWedges } from './hueWedges.ts';

/**
 * The six colours of 75 % colour bars (ITU-R BT.1729) as codes of 255: where a chart of the bars lands. They stand on OKLab's plane,
 * as everything in this scope does.
 */
const bar = 191;
const barTargets: [string, readonly [number, number, number]][] = [
  ['R', [bar, 0, 0]],
  ['Yl', [bar, bar, 0]],
  ['G', [0, bar, 0]],
  ['Cy', [0, bar, bar]],
  ['B', [0, 0, bar]],
  ['Mg', [bar, 0, bar]],
];
const tint = (degrees: number): string => oklch(degrees, 0.13, 0.7);

/** Counts as brightness on a canvas: `at` gives the three channels' counts of a cell. */
function Counts({
  width,
  height,
  top,
  at,
  label,
}: {
  width: number;
  height: number;
  top: number;
  at: (x: number, y: number) => [number, number, number];
  label: string;
}): React.JSX.Element {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const c = canvas.current!,
      context = c.getContext('2d')!,
      image = context.createImageData(width, height),
      bright = scaleSqrt([0, Math.max(1, top)], [0, 255]).clamp(true);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const v = at(x, y),
          o = (y * width + x) * 4;
        for (let k = 0; k < 3; k++) image.data[o + k] = 31 + 0.86 * bright(v[k]!);
        image.data[o + 3] = 255;
      }
    context.putImageData(image, 0, 0);
  });
  return <canvas ref={canvas} width={width} height={height} role="img" aria-label={label} />;
}

function Waveform({ wave, parade }: { wave: Uint32Array; parade: boolean }): React.JSX.Element {
  const top = (max(wave) ?? 1) * 0.35,
    third = Math.floor(waveWidth / 3),
    plane = waveWidth * waveHeight,
    y = scaleLinear([0, 255], [waveHeight, 0]);
  const at = (x: number, line: number): [number, number, number] => {
    const row = (waveHeight - 1 - line) * waveWidth;
    if (!parade) {
      const v = wave[row + x]!;
      return [v, v, v];
    }
    const c = Math.min(2, Math.floor(x / third)),
      from = (x - c * third) * 3,
      v =
        wave[c * plane + row + from]! +
        wave[c * plane + row + Math.min(waveWidth - 1, from + 1)]! +
        wave[c * plane + row + Math.min(waveWidth - 1, from + 2)]!;
    return [c === 0 ? v : v * 0.12, c === 1 ? v : v * 0.12, c === 2 ? v * 1.2 : v * 0.12];
  };
  return (
    <div className="wave">
      <Counts
        width={waveWidth}
        height={waveHeight}
        top={top}
        at={at}
        label={parade ? 'Waveform of red, green and blue' : 'Waveform of luma'}
      />
      <svg viewBox={`0 0 ${waveWidth} ${waveHeight}`} preserveAspectRatio="none">
        {[0, 64, 128, 191, 255].map((v) => (
          <line key={v} x1="0" x2={waveWidth} y1={y(v)} y2={y(v)} />
        ))}
      </svg>
    </div>
  );
}

function Vectors({ vectors }: { vectors: Uint32Array }): React.JSX.Element {
  const top = (max(vectors) ?? 1) * 0.25,
    half = vectorSide / 2,
    r = scaleLinear([0, vectorReach], [0, half]),
    point = (degrees: number, chroma: number): [number, number] => {
      const h = (degrees * Math.PI) / 180;
      return [half + r(chroma) * Math.cos(h), half - r(chroma) * Math.sin(h)];
    };
  const [sx, sy] = point(skinHue, 0.28);
  return (
    <div className="vectors">
      <Counts
        width={vectorSide}
        height={vectorSide}
        top={top}
        at={(x, y) => {
          const v = vectors[y * vectorSide + x]!;
          return [v, v, v];
        }}
        label="Vectorscope: hue and chroma of what is on screen"
      />
      <svg viewBox={`0 0 ${vectorSide} ${vectorSide}`}>
        {[0.1, 0.2, 0.3].map((c) => (
          <circle key={c} cx={half} cy={half} r={r(c)} />
        ))}
        <line x1={half} y1={half} x2={sx} y2={sy} className="skin">
          <title>Skin line (common practice)</title>
        </line>
        {barTargets.map(([name, colour]) => {
          const [, a, b] = oklabOf8(...colour),
            [x, y] = [half + r(a), half - r(b)],
            [out, side] = [Math.hypot(a, b), 3.4];
          return (
            <g key={name} className="bar-target">
              <rect x={x - side} y={y - side} width={2 * side} height={2 * side} />
              <text x={x + (a / out) * 9} y={y - (b / out) * 9}>
                {name}
              </text>
            </g>
          );
        })}
      </svg>
      <p className="scope-words">
        Boxes: 75 % colour bars (BT.1729). <i className="skin-mark" /> where skins lie. Rings: chroma 0.1, 0.2, 0.3.
      </p>
    </div>
  );
}

/** How far about a hue its share is counted, degrees. */
const hueReach = 15;
/** The hues most of the picture is in, at least 30° apart, as degrees. */
function mainHues(hues: Float32Array, share: (h: number) => number): number[] {
  const chosen: number[] = [];
  const order = Array.from(hues, (v, i) => ({ v, h: (i + 0.5) * (360 / hueBins) })).sort((a, b) => b.v - a.v);
  for (const { v, h } of order) {
    const apart = chosen.every((c) => Math.abs(((c - h + 540) % 360) - 180) > 2 * hueReach);
    if (v > 0 && apart && share(h) >= 0.02) chosen.push(h);
    if (chosen.length === 5) break;
  }
  return chosen.sort((a, b) => share(b) - share(a));
}

function Hues({ hues }: { hues: Float32Array }): React.JSX.Element {
  const total = hues.reduce((a, b) => a + b, 0),
    length = scaleSqrt([0, max(hues) || 1], [0, 40]);
  const share = (h: number): number => {
    let s = 0;
    for (let k = -hueReach; k <= hueReach; k += 4) s += hues[Math.floor((((h + k + 360) % 360) / 360) * hueBins)]!;
    return total > 0 ? s / total : 0;
  };
  return (
    <div className="vectors hues">
      <svg viewBox="-69 -69 138 138" role="img" aria-label="How much of each hue is in the picture">
        <HueFan wedges={hueWedges(26, (i) => 27 + length(hues[i]!))} radius={67} chroma={0.13} lightness={0.7} />
        {[0, 90, 180, 270].map((h) => (
          <text key={h} x={18 * Math.cos((h * Math.PI) / 180)} y={-18 * Math.sin((h * Math.PI) / 180)}>
            {h}°
          </text>
        ))}
      </svg>
      <ul>
        {mainHues(hues, share).map((h) => (
          <li key={h}>
            <i style={{ background: tint(h) }} />
            {Math.round(h)}° <small>{Math.round(share(h) * 100)} %</small>
          </li>
        ))}
      </ul>
    </div>
  );
}

/** The scope of readouts that have one. */
export function Scope({ readouts: { kind, wave, vectors, hues } }: { readouts: Readouts }): React.JSX.Element | null {
  if ((kind === 'waveform' || kind === 'parade') && wave) return <Waveform wave={wave} parade={kind === 'parade'} />;
  if (kind === 'vectors' && vectors) return <Vectors vectors={vectors} />;
  return kind === 'hues' && hues ? <Hues hues={hues} /> : null;
}

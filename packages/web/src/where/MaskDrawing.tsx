import { Cloud, Leaf, Lightbulb, Mountain, Tag, UserRound } from 'lucide-react';
import { useId } from 'react';
import type { FoundPart, Mask, MaskPart } from '@dyepot/core';

/** The drawing's size: a frame of two by three. */
const W = 30,
  H = 20;
const regions: Readonly<Record<FoundPart['what'], typeof Cloud>> = { sky: Cloud, foliage: Leaf, skin: UserRound, lights: Lightbulb };
const sign = (Icon: typeof Cloud): React.JSX.Element => <Icon x={8} y={3} width={14} height={14} color="#fff" />;

/** A part's share, white on black, as far as its shape tells it; what only the picture knows is a sign. */
function shareOf(part: MaskPart, id: string): React.JSX.Element {
  switch (part.kind) {
    case 'gradient':
      return (
        <>
          <linearGradient
            id={id}
            gradientUnits="userSpaceOnUse"
            x1={part.from[0] * W}
            y1={part.from[1] * H}
            x2={part.to[0] * W}
            y2={part.to[1] * H}
          >
            <stop offset="0" stopColor="#000" />
            <stop offset={part.middle} stopColor="#808080" />
            <stop offset="1" stopColor="#fff" />
          </linearGradient>
          <rect width={W} height={H} fill={`url(#${id})`} />
        </>
      );
    case 'radial':
      return (
        <>
          <radialGradient id={id}>
            <stop offset={Math.max(0, 1 - part.feather)} stopColor="#fff" />
            <stop offset="1" stopColor="#fff" stopOpacity="0" />
          </radialGradient>
          <ellipse
            cx={part.centre[0] * W}
            cy={part.centre[1] * H}
            rx={part.radii[0] * W}
            ry={part.radii[1] * W}
            transform={`rotate(${part.turn} ${part.centre[0] * W} ${part.centre[1] * H})`}
            fill={`url(#${id})`}
          />
        </>
      );
    case 'brush':
      return (
        <>
          {part.strokes.map((s, i) => (
            <polyline
              key={i}
              points={s.points.flatMap((v, k) => (k % 3 === 0 ? [`${(v / 1e4) * W},${(s.points[k + 1]! / 1e4) * W}`] : [])).join(' ')}
              fill="none"
              stroke={s.erase ? '#000' : '#fff'}
              strokeWidth={Math.max(1, 2 * s.size * W)}
              strokeLinecap="round"
              strokeLinejoin="round"
            />
          ))}
        </>
      );
    case 'outline':
      return <polygon points={part.points.map(([x, y]) => `${x * W},${y * W}`).join(' ')} fill="#fff" />;
    case 'figure': {
      const [x, y, w, h] = part.box.map((v) => v * W) as [number, number, number, number];
      return <ellipse cx={x + w / 2} cy={y + h / 2} rx={w / 2} ry={h / 2} fill="#fff" />;
    }
    case 'tone':
      return (
        <>
          {[0, 1, 2, 3, 4, 5].map((i) => (
            <rect key={i} x={3 + i * 4} y={15 - i * 2} width="3" height={2 + i * 2} fill="#fff" />
          ))}
        </>
      );
    case 'colour':
      return (
        <>
          {part.picks.slice(0, 6).map(([L, a, b], i) => (
            <circle
              key={i}
              cx={6 + (i % 3) * 9}
              cy={part.picks.length > 3 ? 6 + Math.floor(i / 3) * 8 : 10}
              r="4"
              fill={`oklab(${L} ${a} ${b})`}
            />
          ))}
        </>
      );
    case 'haze':
      return sign(Mountain);
    case 'found':
      return sign(regions[part.what]);
    case 'named':
      return sign(Tag);
  }
}
/** A part over those before it: white where it adds, black where it takes away or keeps to another place. */
function layer(part: MaskPart, id: string): React.JSX.Element {
  const share = shareOf(part, `${id}-fill`),
    over = part.inverted !== (part.mode === 'intersect');
  // signs and colours are shown as they are
  if (!over && part.mode === 'add') return <g opacity={part.opacity}>{share}</g>;
  return (
    <>
      <mask id={id} maskUnits="userSpaceOnUse" x="0" y="0" width={W} height={H}>
        <g style={over ? { filter: 'invert(1)' } : undefined}>
          <rect width={W} height={H} fill="#000" />
          {share}
        </g>
      </mask>
      <rect width={W} height={H} fill={part.mode === 'add' ? '#fff' : '#000'} mask={`url(#${id})`} opacity={part.opacity} />
    </>
  );
}

/** Where a step acts, drawn small: its parts one over the other. */
export function MaskDrawing({ mask, words }: { mask: Mask; words: string }): React.JSX.Element {
  const id = useId();
  return (
    <svg className="chip-mask" viewBox={`0 0 ${W} ${H}`} width={W} height={H} role="img" aria-label={words}>
      <g style={mask.inverted ? { filter: 'invert(1)' } : undefined}>
        <rect width={W} height={H} fill="#000" />
        {mask.parts.map((part, i) => (
          <g key={i}>{layer(part, `${id}-${i}`)}</g>
        ))}
      </g>
    </svg>
  );
}

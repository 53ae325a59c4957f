import type { FinishKind } from './finishKinds.ts';
import type { LookStep, ParameterValue } from '@dyepot/core';
import { H, oklch, W } from './drawingParts.ts';

const box = { x: 14, y: 4, width: 48, height: 30 };
const Frame = ({ fill = '#6a6866' }: { fill?: string }): React.JSX.Element => <rect {...box} fill={fill} />;
/** A few specks that stand for grain, always the same. */
const specks = Array.from({ length: 90 }, (_, i) => [box.x + ((i * 37) % 48), box.y + ((i * 53) % 30), (i * 29) % 7] as const);

/** What a step that finishes a picture does, drawn small. */
function finishDrawing(name: FinishKind, step: LookStep, p: Readonly<Record<string, ParameterValue>>): React.JSX.Element {
  const n = (name: string): number => p[name] as number,
    s = Math.min(1, step.strength),
    cx = box.x + (n('x') / 100) * box.width,
    cy = box.y + (n('y') / 100) * box.height;
  switch (name) {
    case 'apart':
      return (
        <>
          <line x1={W / 2} x2={W / 2} y1="4" y2={H - 4} stroke="#555" />
          <circle cx={W / 2 - 18 + n('coolWarmer') * 0.1 * s} cy={H / 2} r={7 + n('coolColour') * 0.05 * s} fill={oklch(238, 0.1)} />
          <circle cx={W / 2 + 18 + n('warmWarmer') * 0.1 * s} cy={H / 2} r={7 + n('warmColour') * 0.05 * s} fill={oklch(58, 0.12)} />
        </>
      );
    case 'toning':
      return (
        <>
          {Array.from({ length: 12 }, (_, i) => {
            const L = 0.12 + i * 0.075,
              dark = L < n('turn') / 100;
            return (
              <rect
                key={i}
                x={8 + i * 5}
                y="8"
                width="5.4"
                height={H - 16}
                fill={`oklch(${L} ${n(dark ? 'darksChroma' : 'lightsChroma') * s} ${n(dark ? 'darksHue' : 'lightsHue')})`}
              />
            );
          })}
        </>
      );
    case 'fade':
      return (
        <>
          <path d={`M8,${H - 5}L${W - 8},5`} stroke="#555" />
          <path
            d={`M8,${H - 5 - (n('lift') / 100) * 56 * s}L${W - 8},${5 + (n('soften') / 100) * 56 * s}`}
            stroke="#f1f0ef"
            strokeWidth="1.6"
          />
        </>
      );
    case 'wash':
      return (
        <>
          <Frame />
          <rect {...box} fill={oklch(n('hue'), n('chroma'), n('lightness'))} opacity={0.2 + (n('opacity') / 125) * s} />
        </>
      );
    case 'glow':
    case 'halation': {
      const wide = name === 'glow' ? 15 : 9,
        fill = name === 'glow' && n('colour') === 0 ? '#f1f0ef' : oklch(n('hue'), 0.15);
      return (
        <>
          {[1, 0.66, 0.36].map((k) => (
            <circle key={k} cx={W / 2} cy={H / 2} r={3 + wide * k} fill={fill} opacity={0.08 + (n('share') / 160) * s} />
          ))}
          <circle cx={W / 2} cy={H / 2} r="3.5" fill="#fff" />
        </>
      );
    }
    case 'lowSun':
      return (
        <>
          <Frame />
          {[22, 13, 6].map((r) => (
            <circle key={r} cx={cx} cy={cy} r={r} fill={oklch(75, 0.12, 0.84)} opacity={0.1 + (n('light') / 300) * s} />
          ))}
        </>
      );
    case 'leak': {
      const edge = p['edge'] as string,
        along = n('place') / 100,
        x = edge === 'left' ? box.x : edge === 'right' ? box.x + box.width : box.x + along * box.width,
        y = edge === 'top' ? box.y : edge === 'bottom' ? box.y + box.height : box.y + along * box.height;
      return (
        <>
          <clipPath id={`leak-${step.id}`}>
            <rect {...box} />
          </clipPath>
          <Frame />
          <g clipPath={`url(#leak-${step.id})`}>
            {[1, 0.6, 0.3].map((k) => (
              <circle
                key={k}
                cx={x}
                cy={y}
                r={(n('reach') / 100) * 48 * k}
                fill={oklch(n('hue'), 0.15, 0.78)}
                opacity={0.12 + (n('light') / 260) * s}
              />
            ))}
          </g>
        </>
      );
    }
    case 'vignette':
      return (
        <>
          <clipPath id={`vignette-${step.id}`}>
            <rect {...box} />
          </clipPath>
          <Frame />
          <path
            clipPath={`url(#vignette-${step.id})`}
            d={`M0,0H${W}V${H}H0ZM${cx - n('size') * 0.2},${cy}a${n('size') * 0.2},${n('size') * 0.14} 0 0 0 ${n('size') * 0.4},0a${n('size') * 0.2},${n('size') * 0.14} 0 0 0 ${-n('size') * 0.4},0Z`}
            fillRule="evenodd"
            fill={n('edgeEv') > 0 ? '#fff' : '#000'}
            opacity={Math.min(0.8, Math.abs(n('edgeEv')) * 0.45 * s)}
          />
        </>
      );
    case 'grain':
      return (
        <>
          <Frame />
          {specks.map(([x, y, k], i) => (
            <circle
              key={i}
              cx={x}
              cy={y}
              r={0.4 + n('size') / 18}
              fill={k % 2 === 0 ? '#111' : '#fff'}
              opacity={Math.min(0.7, (n('rms') / 40) * s * (0.5 + k / 8))}
            />
          ))}
        </>
      );
    case 'overprint':
      return (
        <>
          <Frame />
          <g opacity={0.25 + (n('opacity') / 140) * s} transform={`rotate(${n('turn')} ${W / 2} ${H / 2})`}>
            {[0, 1, 2, 3, 4, 5].map((i) => (
              <path key={i} d={`M${box.x + i * 8},${box.y}v${box.height}`} stroke="#f1f0ef" strokeWidth={1 + (i % 3)} />
            ))}
          </g>
        </>
      );
    case 'border': {
      const by = (n('width') / 100) * 48 * s;
      return (
        <>
          <Frame fill={`oklch(${n('lightness') / 100} ${n('chroma')} ${n('hue')})`} />
          <rect x={box.x + by} y={box.y + by} width={box.width - 2 * by} height={box.height - 2 * by} fill="#5c5a58" />
        </>
      );
    }
  }
}

/** The drawing of a finish, fetched when a chain has one. */
export function FinishDrawing({
  name,
  step,
  params,
}: {
  name: FinishKind;
  step: LookStep;
  params: Readonly<Record<string, ParameterValue>>;
}): React.JSX.Element {
  return finishDrawing(name, step, params);
}

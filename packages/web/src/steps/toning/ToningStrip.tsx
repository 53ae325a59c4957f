import { oklabToRec2020, stepKind } from '@dyepot/core';
import { Fields } from '../../kit/Cell.tsx';
import { cssLight } from '../../kit/cssLight.ts';
import { fieldsOf, trayWidth as W, type FittingProps } from '../fitting.ts';

const H = 64,
  steps = 46;

/** What tones become of, from black to paper: above as they come, below as they are toned. */
export function ToningStrip({ params, numbers, onSet }: FittingProps): React.JSX.Element {
  const passes = stepKind('toning')!.compile({ ...params, amount: 100 }, 1),
    tables = passes[1]!.parameters,
    intervals = tables[1]!,
    at = (L: number, k: number): number => tables[2 + k * (intervals + 2) + Math.round(L * intervals)]!;
  return (
    <>
      <svg className="drawing" viewBox={`0 0 ${W} ${H}`} role="img" aria-label="Tones from black to white, toned">
        {Array.from({ length: steps }, (_, i) => {
          const L = i / (steps - 1),
            box = { x: (i * W) / steps, width: W / steps + 0.5 };
          return (
            <g key={i}>
              <rect {...box} y="0" height="20" fill={cssLight([L ** 3, L ** 3, L ** 3])} />
              <rect {...box} y="20" height={H - 20} fill={cssLight(oklabToRec2020([L, at(L, 0), at(L, 1)]))} />
            </g>
          );
        })}
      </svg>
      <Fields of={fieldsOf('toning', numbers, ['amount', 'turn'])} onSet={onSet} />
      <Fields
        of={fieldsOf('toning', numbers, ['darksHue', ['darksChroma', 'chroma'], 'lightsHue', ['lightsChroma', 'chroma']])}
        onSet={onSet}
      />
      <Fields of={fieldsOf('toning', numbers, ['paperHue', ['paperChroma', 'chroma']])} onSet={onSet} />
    </>
  );
}

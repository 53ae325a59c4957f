import { apply3, oklabToRec2020, stepKind, type Matrix3 } from '@dyepot/core';
import { Cell } from '../../kit/Cell.tsx';
import { channels, tints, upper, wordTints } from '../channels.ts';
import { cssLight } from '../../kit/cssLight.ts';
import { declared, trayWidth as W, type FittingProps } from '../fitting.ts';
import { Cells } from '../../kit/Cells.tsx';

const hues = Array.from({ length: 24 }, (_, i) => {
  const a = (i * 15 * Math.PI) / 180;
  return oklabToRec2020([0.7, 0.12 * Math.cos(a), 0.12 * Math.sin(a)]);
});
/** Hues round the circle as they come, and as the mixture makes them. */
function MixedHues({ params }: Pick<FittingProps, 'params'>): React.JSX.Element {
  const pass = stepKind('mixer')!.compile(params, 1)[0],
    numbers = pass ? Array.from(pass.parameters) : [1, 0, 0, 0, 1, 0, 0, 0, 1],
    offsets = numbers.slice(9);
  return (
    <svg className="drawing" viewBox={`0 0 ${W} 44`} role="img" aria-label="Hues before and after the mixture">
      {hues.map((rgb, i) => {
        const mixed = apply3(numbers.slice(0, 9) as unknown as Matrix3, rgb).map((v, c) => v + (offsets[c] ?? 0));
        return [rgb, mixed].map((colour, k) => (
          <rect
            key={`${i} ${k}`}
            x={(i * W) / 24}
            y={k * 23}
            width={W / 24 + 0.3}
            height="21"
            fill={cssLight(colour)}
            shapeRendering="crispEdges"
          />
        ));
      })}
    </svg>
  );
}

/** Three channels from three: each row is what comes out, each column what goes in. */
export function MixerGrid({ params, numbers, onSet }: FittingProps): React.JSX.Element {
  return (
    <>
      <MixedHues params={params} />
      <Cells>
        <table className="grid-table" aria-label="Channel mixer">
          <thead>
            <tr>
              <th scope="col">out ↓ in →</th>
              {channels.map((c) => (
                <th key={c} scope="col" style={{ color: wordTints[c] }}>
                  {c}
                </th>
              ))}
              <th scope="col">offset</th>
            </tr>
          </thead>
          <tbody>
            {channels.map((to) => (
              <tr key={to}>
                <th scope="row" style={{ color: wordTints[to] }}>
                  {to}
                </th>
                {channels.map((from) => {
                  const name = `${to}From${upper(from)}`;
                  return (
                    <td key={from}>
                      <Cell
                        parameter={declared('mixer', name)}
                        value={numbers[name]!}
                        tint={tints[from]}
                        onChange={(v, g) => onSet(name, v, g)}
                      />
                    </td>
                  );
                })}
                <td>
                  <Cell
                    parameter={declared('mixer', `${to}Offset`)}
                    value={numbers[`${to}Offset`]!}
                    onChange={(v, g) => onSet(`${to}Offset`, v, g)}
                  />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </Cells>
    </>
  );
}

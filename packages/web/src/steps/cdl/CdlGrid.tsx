import { cdlOf, cdlParams, number, type Cdl } from '@dyepot/core';
import { Button } from '@chakra-ui/react';
import { line, range } from 'd3';
import { useRef, useState } from 'react';
import { messageOf, useReadTableMutation } from '../../api.ts';
import { Cell, Fields } from '../../kit/Cell.tsx';
import { complain } from '../../kit/notices.tsx';
import { channels, tints, upper, wordTints } from '../channels.ts';
import { declared, fieldsOf, trayWidth as W, type FittingProps } from '../fitting.ts';
import { Cells } from '../../kit/Cells.tsx';

const H = 72;
const together = {
  slope: number('Slope, all', '', 0, 4, 1, 0.005, 3),
  offset: number('Offset, all', '', -1, 1, 0, 0.002, 3),
  power: number('Power, all', '', 0.1, 4, 1, 0.005, 3),
};
/** Slope, offset and power of each channel and of all; saturation. */
export function CdlGrid({ numbers, onSet, onSetAll }: FittingProps): React.JSX.Element {
  const { slope, offset, power } = cdlOf(numbers);
  return (
    <>
      <svg className="drawing" viewBox={`0 0 ${W} ${H}`} role="img" aria-label="What the numbers do to each channel">
        <rect width={W} height={H} fill="#1f1f1f" />
        <path d={`M0,${H}L${W},0`} stroke="#5c5a58" strokeDasharray="3 3" />
        {channels.map((c, i) => (
          <path
            key={c}
            d={
              line<number>()
                .x((t) => t * W)
                .y((t) => H * (1 - Math.min(1, Math.max(0, t * slope[i]! + offset[i]!)) ** power[i]!))(range(0, 1.001, 0.02)) ?? ''
            }
            fill="none"
            stroke={tints[c]}
            strokeWidth="1.6"
          />
        ))}
      </svg>
      <Cells>
        <table className="grid-table" aria-label="Slope, offset, power">
          <thead>
            <tr>
              <td />
              {channels.map((c) => (
                <th key={c} scope="col" style={{ color: wordTints[c] }}>
                  {c}
                </th>
              ))}
              <th scope="col">all</th>
            </tr>
          </thead>
          <tbody>
            {(['slope', 'offset', 'power'] as const).map((row) => {
              const mean = channels.reduce((s, c) => s + numbers[`${row}${upper(c)}`]!, 0) / 3;
              return (
                <tr key={row}>
                  <th scope="row">{row}</th>
                  {channels.map((c) => {
                    const name = `${row}${upper(c)}`;
                    return (
                      <td key={c}>
                        <Cell
                          parameter={declared('cdl', name)}
                          value={numbers[name]!}
                          tint={tints[c]}
                          onChange={(v, g) => onSet(name, v, g)}
                        />
                      </td>
                    );
                  })}
                  <td>
                    <Cell
                      parameter={together[row]}
                      value={Math.round(mean * 1000) / 1000}
                      onChange={(v, g) =>
                        onSetAll(
                          Object.fromEntries(
                            channels.map((c) => {
                              const p = declared('cdl', `${row}${upper(c)}`);
                              return [
                                `${row}${upper(c)}`,
                                Math.min(p.max, Math.max(p.min, Math.round((numbers[`${row}${upper(c)}`]! + v - mean) * 1000) / 1000)),
                              ];
                            }),
                          ),
                          'CDL',
                          g,
                        )
                      }
                    />
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </Cells>
      <Fields of={fieldsOf('cdl', numbers, ['saturation'])} onSet={onSet} />
      <CdlFile onChosen={(cdl) => onSetAll(cdlParams(cdl), 'CDL', '')} />
    </>
  );
}

/** Takes the numbers of a CDL file; of several corrections, the one chosen. */
function CdlFile({ onChosen }: { onChosen: (cdl: Cdl) => void }): React.JSX.Element {
  const input = useRef<HTMLInputElement>(null),
    [read, reading] = useReadTableMutation(),
    [several, setSeveral] = useState<{ id: string; cdl: Cdl }[]>([]);
  const take = (file: File): void => {
    read(file)
      .unwrap()
      .then(
        ({ corrections }) => {
          const first = corrections[0];
          if (!first) {
            complain(`${file.name} is a table; numbers come from a .cc, .ccc or .cdl`);
            return;
          }
          setSeveral(corrections.length > 1 ? corrections : []);
          onChosen(first.cdl);
        },
        (error: unknown) => complain(`${file.name}: ${messageOf(error)}`),
      );
  };
  return (
    <div className="row">
      <input
        ref={input}
        type="file"
        hidden
        accept=".cc,.ccc,.cdl"
        aria-label="File of the numbers"
        onChange={(e) => {
          const f = e.target.files?.[0];
          e.target.value = '';
          if (f) take(f);
        }}
      />
      <Button size="xs" variant="outline" loading={reading.isLoading} onClick={() => input.current?.click()}>
        Bring in numbers…
      </Button>
      {several.length > 0 && (
        <select aria-label="Which correction" onChange={(e) => onChosen(several[Number(e.target.value)]!.cdl)}>
          {several.map((c, i) => (
            <option key={i} value={i}>
              {c.id || `correction ${i + 1}`}
            </option>
          ))}
        </select>
      )}
    </div>
  );
}

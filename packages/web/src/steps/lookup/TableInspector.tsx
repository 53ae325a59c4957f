import { inspectTable, type GreyPlace, type Table, type TableReport } from '@dyepot/core';
import { Button } from '@chakra-ui/react';
import { line } from 'd3';
import { useMemo, useState } from 'react';
import { Sheet } from '../../kit/Sheet.tsx';
import { TableCube, type Marked } from './TableCube.tsx';
import { TableSlices } from './TableSlices.tsx';
import { Rove } from '../../kit/Rove.tsx';

const W = 360,
  H = 190,
  colours = ['#e0766b', '#7fb878', '#7b9fe0'] as const,
  percent = (v: number): string => `${(v * 100).toFixed(1)} %`;

/** The greys through the table, by channel, with the places marked where they fall, bend or step. */
function GreyAxis({ report }: { report: TableReport }): React.JSX.Element {
  const y = (v: number): number => H - 16 - Math.min(1.04, Math.max(-0.04, v)) * (H - 24),
    marks: [GreyPlace, string][] = [
      ...report.falls.map((p): [GreyPlace, string] => [p, 'falls']),
      ...report.bands.map((p): [GreyPlace, string] => [p, 'steps']),
      ...report.bends.map((p): [GreyPlace, string] => [p, 'bends']),
    ];
  return (
    <svg viewBox={`0 0 ${W} ${H}`} className="drawing" role="img" aria-label="The greys through the table, by channel">
      <rect width={W} height={H} fill="#1f1f1f" />
      {[0, 0.25, 0.5, 0.75, 1].map((t) => (
        <g key={t}>
          <path d={`M${t * W},${y(1)}V${y(0)}M0,${y(t)}H${W}`} stroke="#353535" />
          <text x={Math.min(W - 34, t * W + 3)} y={H - 4} className="on-dark">
            {t * 100} %
          </text>
        </g>
      ))}
      <path d={`M0,${y(0)}L${W},${y(1)}`} stroke="#5c5a58" strokeDasharray="3 3" />
      {colours.map((colour, c) => (
        <path
          key={colour}
          d={
            line<TableReport['grey'][number]>()
              .x((g) => g.at * W)
              .y((g) => y(g.rgb[c]!))(report.grey) ?? ''
          }
          stroke={colour}
          strokeWidth="1.8"
          fill="none"
          style={{ mixBlendMode: 'screen' }}
        />
      ))}
      {marks.map(([p, word], i) => (
        <g key={`${word} ${p.channel}`}>
          <path d={`M${p.at * W},${y(1)}V${y(0)}`} stroke={colours[p.channel]} strokeDasharray="2 2" />
          <text x={Math.min(W - 34, p.at * W + 4)} y={y(1) + 12 + (i % 6) * 12} style={{ fill: colours[p.channel] }}>
            {word}
          </text>
        </g>
      ))}
    </svg>
  );
}

/** A table looked into: the cube, slices, the greys by channel, and what is wrong with it, in words. */
export function TableInspector({ table, onClose }: { table: Table; onClose: () => void }): React.JSX.Element {
  const report = useMemo(() => inspectTable(table), [table]),
    [marked, setMarked] = useState<Marked>('none');
  return (
    <Sheet title={table.title || 'Table'} onClose={onClose} wide>
      <div className="inspector">
        <div>
          <TableCube table={table} marked={marked} />
          <Rove className="segmented" role="tablist" aria-label="Marked in the cube">
            {(
              [
                ['none', 'All colours'],
                ['clips', 'What clips'],
                ['folds', 'What folds'],
              ] as const
            ).map(([value, words]) => (
              <button key={value} type="button" role="tab" aria-selected={marked === value} onClick={() => setMarked(value)}>
                {words}
              </button>
            ))}
          </Rove>
          <dl>
            <dt>size</dt>
            <dd>{table.kind === '3d' ? `${table.size}³` : `1D, ${table.size}`}</dd>
            <dt>clipped, dark end</dt>
            <dd>{percent(report.clippedLow)}</dd>
            <dt>clipped, light end</dt>
            <dd>{percent(report.clippedHigh)}</dd>
            <dt>folded</dt>
            <dd>{percent(report.folded)}</dd>
          </dl>
        </div>
        <div>
          <h3 className="part-head">Greys through it</h3>
          <GreyAxis report={report} />
          <TableSlices table={table} />
          {report.warnings.length === 0 ? (
            <p className="purpose">Nothing speaks against it: the greys rise in every channel, nothing folds, nothing bands.</p>
          ) : (
            <ul className="warnings">
              {report.warnings.map((w) => (
                <li key={w}>{w}</li>
              ))}
            </ul>
          )}
        </div>
      </div>
      <div className="sheet-actions">
        <Button size="sm" variant="ghost" onClick={onClose}>
          Close
        </Button>
      </div>
    </Sheet>
  );
}

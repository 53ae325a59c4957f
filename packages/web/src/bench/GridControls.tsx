import { cdlParams, gelTransmission, number, stepKind, type Cdl, type NumberParameter } from '@dyepot/core';
import { Button } from '@chakra-ui/react';
import { useRef, useState } from 'react';
import { messageOf, useReadTableMutation } from '../api.ts';
import { complain } from '../kit/notices.tsx';
import { NumberControl } from '../kit/NumberControl.tsx';

type Values = Record<string, number>;
type Set = (name: string, value: number, gesture: string) => void;
const channels = ['red', 'green', 'blue'] as const,
  tints = { red: '#d8675c', green: '#6fa868', blue: '#6b8fd0' },
  upper = (c: string): string => c[0]!.toUpperCase() + c.slice(1);
let gestures = 0;

/** A number in a grid: dragged sideways, nudged by arrows, typed, put back by a double click. */
function Cell({
  parameter: p,
  value,
  onChange,
  tint,
}: {
  parameter: NumberParameter;
  value: number;
  onChange: (v: number, gesture: string) => void;
  tint?: string;
}): React.JSX.Element {
  const [typed, setTyped] = useState<string | null>(null),
    [drag, setDrag] = useState<{ x: number; value: number; gesture: string; moved: boolean } | null>(null),
    clamp = (v: number): number => Math.min(p.max, Math.max(p.min, Math.round(v / p.step) * p.step)),
    tidy = (v: number): number => Number(clamp(v).toFixed(6)),
    share = (value - p.min) / (p.max - p.min),
    zero = (p.default - p.min) / (p.max - p.min);
  const commit = (): void => {
    const v = Number((typed ?? '').replace('−', '-').replace(',', '.'));
    if (typed !== null && typed.trim() !== '' && Number.isFinite(v)) onChange(tidy(v), `cell-${++gestures}`);
    setTyped(null);
  };
  if (typed !== null)
    return (
      <input
        className="cell"
        aria-label={`${p.label}, typed`}
        autoFocus
        value={typed}
        onChange={(e) => setTyped(e.target.value)}
        onFocus={(e) => e.target.select()}
        onBlur={commit}
        onKeyDown={(e) => {
          e.stopPropagation();
          if (e.key === 'Enter') commit();
          if (e.key === 'Escape') setTyped(null);
        }}
      />
    );
  return (
    <div
      className="cell"
      role="slider"
      tabIndex={0}
      aria-label={p.label}
      aria-valuemin={p.min}
      aria-valuemax={p.max}
      aria-valuenow={value}
      title="Drag sideways, or press Enter to type"
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        setDrag({ x: e.clientX, value, gesture: `cell-${++gestures}`, moved: false });
      }}
      onPointerMove={(e) => {
        if (!drag) return;
        const v = tidy(drag.value + (e.clientX - drag.x) * ((p.max - p.min) / (e.shiftKey ? 2400 : 400)));
        if (v !== value) {
          setDrag({ ...drag, moved: true });
          onChange(v, drag.gesture);
        }
      }}
      onPointerUp={() => {
        if (drag && !drag.moved) setTyped(value.toFixed(p.decimals));
        setDrag(null);
      }}
      onDoubleClick={() => onChange(p.default, `cell-${++gestures}`)}
      onKeyDown={(e) => {
        const way = e.key === 'ArrowRight' || e.key === 'ArrowUp' ? 1 : e.key === 'ArrowLeft' || e.key === 'ArrowDown' ? -1 : 0;
        if (way) {
          e.preventDefault();
          e.stopPropagation();
          onChange(tidy(value + way * p.step * (e.altKey ? 10 : 1)), 'cell-keys');
        } else if (e.key === 'Enter') {
          e.preventDefault();
          setTyped(value.toFixed(p.decimals));
        } else if (e.key === 'Delete' || e.key === 'Backspace') {
          e.preventDefault();
          e.stopPropagation();
          onChange(p.default, `cell-${++gestures}`);
        }
      }}
    >
      <i style={{ left: `${Math.min(zero, share) * 100}%`, width: `${Math.abs(share - zero) * 100}%`, background: tint ?? '#8a8886' }} />
      <span>{value.toFixed(p.decimals)}</span>
    </div>
  );
}

/** Three channels from three: each row is what comes out, each column what goes in. */
export function MixerGrid({ params, onSet }: { params: Values; onSet: Set }): React.JSX.Element {
  const declared = stepKind('mixer')!.params;
  return (
    <table className="grid-table" aria-label="Channel mixer">
      <thead>
        <tr>
          <th scope="col">out ↓ in →</th>
          {channels.map((c) => (
            <th key={c} scope="col" style={{ color: tints[c] }}>
              {c}
            </th>
          ))}
          <th scope="col">offset</th>
        </tr>
      </thead>
      <tbody>
        {channels.map((to) => (
          <tr key={to}>
            <th scope="row" style={{ color: tints[to] }}>
              {to}
            </th>
            {channels.map((from) => {
              const name = `${to}From${upper(from)}`;
              return (
                <td key={from}>
                  <Cell
                    parameter={declared[name] as NumberParameter}
                    value={params[name]!}
                    tint={tints[from]}
                    onChange={(v, g) => onSet(name, v, g)}
                  />
                </td>
              );
            })}
            <td>
              <Cell
                parameter={declared[`${to}Offset`] as NumberParameter}
                value={params[`${to}Offset`]!}
                onChange={(v, g) => onSet(`${to}Offset`, v, g)}
              />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const together = {
  slope: number('Slope, all', '', 0, 4, 1, 0.005, 3),
  offset: number('Offset, all', '', -1, 1, 0, 0.002, 3),
  power: number('Power, all', '', 0.1, 4, 1, 0.005, 3),
};
/** Slope, offset and power of each channel and of all; saturation. */
export function CdlGrid({
  params,
  onSet,
  onSetAll,
}: {
  params: Values;
  onSet: Set;
  onSetAll: (values: Values, gesture: string) => void;
}): React.JSX.Element {
  const declared = stepKind('cdl')!.params;
  return (
    <>
      <table className="grid-table" aria-label="Slope, offset, power">
        <thead>
          <tr>
            <th />
            {channels.map((c) => (
              <th key={c} scope="col" style={{ color: tints[c] }}>
                {c}
              </th>
            ))}
            <th scope="col">all</th>
          </tr>
        </thead>
        <tbody>
          {(['slope', 'offset', 'power'] as const).map((row) => {
            const mean = channels.reduce((s, c) => s + params[`${row}${upper(c)}`]!, 0) / 3;
            return (
              <tr key={row}>
                <th scope="row">{row}</th>
                {channels.map((c) => {
                  const name = `${row}${upper(c)}`;
                  return (
                    <td key={c}>
                      <Cell
                        parameter={declared[name] as NumberParameter}
                        value={params[name]!}
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
                            const p = declared[`${row}${upper(c)}`] as NumberParameter;
                            return [
                              `${row}${upper(c)}`,
                              Math.min(p.max, Math.max(p.min, Math.round((params[`${row}${upper(c)}`]! + v - mean) * 1000) / 1000)),
                            ];
                          }),
                        ),
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
      <NumberControl
        parameter={declared['saturation'] as NumberParameter}
        value={params['saturation']!}
        onChange={(v, g) => onSet('saturation', v, g)}
      />
      <CdlFile onChosen={(cdl) => onSetAll(cdlParams(cdl), '')} />
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

/** A filter's colour chosen on a strip of hues, as it would look held against the light. */
export function GelControl({ params, onSet }: { params: Values; onSet: Set }): React.JSX.Element {
  const declared = stepKind('gel')!.params,
    t = gelTransmission(params['hue']!, Math.max(0.15, params['density']!)),
    strip = Array.from({ length: 48 }, (_, i) => i * 7.5),
    css = (v: readonly number[]): string => `color(rec2020 ${v.map((x) => x ** 0.45).join(' ')})`;
  return (
    <div className="gel">
      <svg
        viewBox="0 0 276 54"
        role="slider"
        tabIndex={0}
        aria-label="Hue of the filter"
        aria-valuemin={0}
        aria-valuemax={360}
        aria-valuenow={params['hue']!}
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          const r = e.currentTarget.getBoundingClientRect();
          onSet('hue', Math.round(Math.min(360, Math.max(0, ((e.clientX - r.left) / r.width) * 360))), `gel-${++gestures}`);
        }}
        onPointerMove={(e) => {
          if (e.buttons !== 1) return;
          const r = e.currentTarget.getBoundingClientRect();
          onSet('hue', Math.round(Math.min(360, Math.max(0, ((e.clientX - r.left) / r.width) * 360))), `gel-${gestures}`);
        }}
        onKeyDown={(e) => {
          const way = e.key === 'ArrowRight' ? 1 : e.key === 'ArrowLeft' ? -1 : 0;
          if (way) {
            e.preventDefault();
            e.stopPropagation();
            onSet('hue', (params['hue']! + way * (e.shiftKey ? 1 : 5) + 360) % 360, 'gel-keys');
          }
        }}
      >
        {strip.map((h) => (
          <rect key={h} x={(h / 360) * 276} y="0" width="6.2" height="22" fill={css(gelTransmission(h, 0.8))} />
        ))}
        <rect x="0" y="26" width="276" height="28" fill={css(t)} rx="3" />
        <path d={`M${(params['hue']! / 360) * 276 - 5} 26 h10 l-5 -6 z`} fill="#fff" stroke="#222" />
      </svg>
      {(['hue', 'density', 'mired'] as const).map((n) => (
        <NumberControl key={n} parameter={declared[n] as NumberParameter} value={params[n]!} onChange={(v, g) => onSet(n, v, g)} />
      ))}
    </div>
  );
}

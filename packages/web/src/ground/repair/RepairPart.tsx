import { number, straightFrom, type RepairKind } from '@dyepot/core';
import { Button } from '@chakra-ui/react';
import { useEffect, useState } from 'react';
import { NumberControl } from '../../kit/NumberControl.tsx';
import { Rove } from '../../kit/Rove.tsx';
import { useShortcut } from '../../kit/useShortcut.ts';
import { DustPart } from './DustPart.tsx';
import type { DustHand } from './useDust.ts';
import type { RepairHand } from './useRepairs.ts';

const kinds: readonly { kind: RepairKind; words: string; title: string }[] = [
  { kind: 'heal', words: 'Heal', title: 'The source’s texture in the place’s own light' },
  { kind: 'clone', words: 'Clone', title: 'The source as it is' },
  { kind: 'fill', words: 'Fill', title: 'Put together from all round, where nothing alone could cover it' },
];
const size = number('Size', '‰ of the long edge', 1, 120, 12, 0.5, 1),
  feather = number('Feather', '%', 0, 100, 40, 1, 0),
  turn = number('Turn', '°', -180, 180, 0, 1, 0),
  scale = number('Source size', '%', 25, 400, 100, 1, 0);

/** Whether something has gone on for longer than a moment. */
function useSlow(on: boolean, ms = 200): boolean {
  const [slow, setSlow] = useState(false);
  useEffect(() => {
    setSlow(false);
    if (!on) return;
    const timer = setTimeout(() => setSlow(true), ms);
    return () => clearTimeout(timer);
  }, [on, ms]);
  return slow;
}
/** What the hand repairs with, and the repair that is chosen. */
export function RepairPart({ hand }: { hand: RepairHand & { dust: DustHand } }): React.JSX.Element {
  const { selected, brush, repairs } = hand,
    { dust } = hand,
    slow = useSlow(hand.working);
  useShortcut('n', () => {
    if (dust.proposed) dust.go(1);
    else if (selected) void hand.again(selected.id);
  });
  useShortcut('shift+n', () => dust.go(-1));
  useShortcut('d', () => {
    if (selected) hand.copy(selected.id);
  });
  useShortcut('comma', () => hand.setBrush({ radius: Math.max(0.001, brush.radius / 1.15) }));
  useShortcut('period', () => hand.setBrush({ radius: Math.min(0.12, brush.radius * 1.15) }));
  useShortcut('delete', () => {
    if (selected) hand.take(selected.id);
  });
  useShortcut('h', () => hand.setOff(!hand.off));
  useShortcut('escape', hand.stop, { unless: () => !slow });
  return (
    <>
      <Rove className="starts" role="radiogroup" aria-label="How it is repaired">
        {kinds.map((k) => (
          <button
            key={k.kind}
            type="button"
            role="radio"
            aria-checked={brush.kind === k.kind}
            title={k.title}
            onClick={() => hand.setBrush({ kind: k.kind })}
          >
            {k.words}
          </button>
        ))}
      </Rove>
      <Rove className="starts" role="radiogroup" aria-label="What is drawn">
        {(['spot', 'outline'] as const).map((d) => (
          <button key={d} type="button" role="radio" aria-checked={brush.draws === d} onClick={() => hand.setBrush({ draws: d })}>
            {d === 'spot' ? 'Spot or brushed line' : 'Outline'}
          </button>
        ))}
      </Rove>
      <NumberControl parameter={size} value={Math.round(brush.radius * 1e4) / 10} onChange={(v) => hand.setBrush({ radius: v / 1000 })} />
      <NumberControl parameter={feather} value={Math.round(brush.feather * 100)} onChange={(v) => hand.setBrush({ feather: v / 100 })} />
      <div className="row">
        <button
          type="button"
          className={`tool ${hand.off ? 'on' : ''}`}
          aria-pressed={hand.off}
          title="The picture without its repairs (H)"
          onClick={() => hand.setOff(!hand.off)}
        >
          Without repairs
        </button>
      </div>
      {slow && (
        <div className="row" role="status">
          Repairing…
          <Button size="xs" variant="outline" title="Stop, and take it back (Escape)" onClick={hand.stop}>
            Stop
          </Button>
        </div>
      )}
      <DustPart dust={dust} />
      {selected ? (
        <section className="repair-chosen" aria-label="The chosen repair">
          <h3>{kinds.find((k) => k.kind === selected.kind)!.words}</h3>
          <div className="row">
            <Rove className="starts" role="radiogroup" aria-label="How the chosen one is repaired">
              {kinds.map((k) => (
                <button
                  key={k.kind}
                  type="button"
                  role="radio"
                  aria-checked={selected.kind === k.kind}
                  onClick={() =>
                    hand.change(
                      selected.id,
                      (r) => ({
                        ...r,
                        kind: k.kind,
                        source:
                          k.kind === 'fill' ? null : (r.source ?? straightFrom(r.shape.kind === 'spot' && r.shape.x > 0.5 ? -0.1 : 0.1, 0)),
                      }),
                      k.words,
                      '',
                    )
                  }
                >
                  {k.words}
                </button>
              ))}
            </Rove>
          </div>
          {selected.shape.kind !== 'outline' && (
            <NumberControl
              parameter={size}
              label="Its size"
              value={Math.round(selected.shape.radius * 1e4) / 10}
              onChange={(v, g) =>
                hand.change(
                  selected.id,
                  (r) => (r.shape.kind === 'outline' ? r : { ...r, shape: { ...r.shape, radius: v / 1000 } }),
                  'Size',
                  `size-${g}`,
                )
              }
            />
          )}
          <NumberControl
            parameter={feather}
            label="Its feather"
            value={
              selected.shape.kind === 'outline'
                ? Math.round((selected.shape.points.reduce((sum, p) => sum + p[2], 0) / selected.shape.points.length) * 1000)
                : Math.round(selected.shape.feather * 100)
            }
            onChange={(v, g) =>
              hand.change(
                selected.id,
                (r) => ({
                  ...r,
                  shape:
                    r.shape.kind === 'outline'
                      ? { ...r.shape, points: r.shape.points.map((p) => [p[0], p[1], v / 1000] as const) }
                      : { ...r.shape, feather: v / 100 },
                }),
                'Feather',
                `feather-${g}`,
              )
            }
          />
          {selected.source && (
            <>
              <NumberControl
                parameter={turn}
                value={selected.source.turn}
                onChange={(v, g) =>
                  hand.change(selected.id, (r) => ({ ...r, source: r.source && { ...r.source, turn: v } }), 'Turn', `turn-${g}`)
                }
              />
              <NumberControl
                parameter={scale}
                value={Math.round(selected.source.scale * 100)}
                onChange={(v, g) =>
                  hand.change(
                    selected.id,
                    (r) => ({ ...r, source: r.source && { ...r.source, scale: v / 100 } }),
                    'Source size',
                    `scale-${g}`,
                  )
                }
              />
              <div className="row">
                <label className="inline">
                  <input
                    type="checkbox"
                    checked={selected.source.mirror}
                    onChange={(e) =>
                      hand.change(
                        selected.id,
                        (r) => ({ ...r, source: r.source && { ...r.source, mirror: e.target.checked } }),
                        'Mirror',
                        '',
                      )
                    }
                  />{' '}
                  mirrored
                </label>
                <Button
                  size="xs"
                  variant="outline"
                  title="The next best place to take it from (N)"
                  onClick={() => void hand.again(selected.id)}
                >
                  Another source
                </Button>
              </div>
            </>
          )}
          <div className="row">
            <label className="inline">
              <input
                type="checkbox"
                checked={selected.on}
                onChange={(e) => hand.change(selected.id, (r) => ({ ...r, on: e.target.checked }), e.target.checked ? 'On' : 'Off', '')}
              />{' '}
              on
            </label>
            <Button size="xs" variant="ghost" title="Another like it, a little beside it (D)" onClick={() => hand.copy(selected.id)}>
              Copy
            </Button>
            <Button size="xs" variant="ghost" title="Delete" onClick={() => hand.take(selected.id)}>
              Take out
            </Button>
          </div>
        </section>
      ) : (
        <p className="purpose">
          {repairs.length === 0
            ? 'Click a spot on the picture, or drag along a line; its source is found by itself.'
            : `${repairs.length} ${repairs.length === 1 ? 'repair' : 'repairs'}; click one to change it.`}{' '}
          Shift and two clicks draw a straight line; Alt and a click say where the next one is taken from.
        </p>
      )}
    </>
  );
}

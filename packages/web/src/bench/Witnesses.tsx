import { drawingOf, plateLevels, type Look } from '@dyepot/core';
import { LazyMenu } from '../kit/LazyMenu.tsx';
import { Plus, X } from 'lucide-react';
import { lazy, Suspense, memo, useRef } from 'react';
import { Rove } from '../kit/Rove.tsx';
import { useAppDispatch, useAppSelector } from '../store.ts';
import type { Frame } from '../types.ts';
import { act, docOf, stepIn } from './benchSlice.ts';
import type { Darkroom } from '../view/darkroom.ts';
import { useFrameRender } from '../view/useFrameRender.ts';

/** Pictures come first. */
const WitnessNote = lazy(async () => {
  await new Promise((resolve) => setTimeout(resolve, 1500));
  return import('../where/WitnessNote.tsx').catch(() => ({ default: () => <></> }));
});
const workerOf = [[0], [1]] as const;

function Witness({
  darkroom,
  frame,
  look,
  index,
  onLead,
  onRemove,
}: {
  darkroom: Darkroom;
  frame: Frame;
  look: Look;
  index: number;
  onLead: () => void;
  onRemove: () => void;
}): React.JSX.Element {
  const canvas = useRef<HTMLCanvasElement>(null);
  let level = plateLevels - 1;
  while (level > 0 && frame.width >> level < 130 * Math.min(2, window.devicePixelRatio || 1)) level--;
  const message = useFrameRender(darkroom, {
    name: `witness-${frame.id}`,
    frame,
    piece: { level, x: 0, y: 0, ...drawingOf(frame.groundwork, frame, level, null).whole },
    look,
    ground: frame.groundwork,
    steps: frame.steps,
    rank: 3,
    canvas,
    workers: workerOf[index % 2]!,
    live: (s) => ({ look: s.bench.look, ground: frame.groundwork, steps: frame.steps }),
  });
  const wanted = useAppSelector((s) => {
    const { look } = docOf(s.bench),
      held = look.skeins.find((k) => k.id === s.bench.selected) ?? stepIn(look, s.bench.selected);
    return (
      (s.bench.side === 'look' &&
        held?.mask?.parts.flatMap((p) => (p.kind === 'found' && p.mode !== 'subtract' && !p.inverted ? p.what : [])).join(' ')) ||
      ''
    );
  });
  return (
    <div className="witness">
      <button
        type="button"
        className="witness-picture"
        onClick={onLead}
        aria-label={`Make ${frame.name} the lead frame`}
        title="Enter makes it the lead frame, Delete takes it out"
        onKeyDown={(e) => {
          if (e.key !== 'Delete' && e.key !== 'Backspace') return;
          e.preventDefault();
          e.stopPropagation();
          onRemove();
        }}
        style={{ aspectRatio: `${frame.output.width} / ${frame.output.height}` }}
      >
        <canvas ref={canvas} data-testid="witness" />
        {message && <span>{message}</span>}
      </button>
      <div className="witness-line">
        <span title={frame.name}>{frame.name}</span>
        <small title={frame.light}>
          <Suspense fallback={frame.light}>
            <WitnessNote frame={frame} wanted={wanted} />
          </Suspense>
        </small>
        <button type="button" tabIndex={-1} aria-label={`Take out ${frame.name}`} onClick={onRemove}>
          <X size={12} />
        </button>
      </div>
    </div>
  );
}

/** Chooses one more witness; takes text, so that it is not drawn anew with every move of a control. */
const AddWitness = memo(function AddWitness({ shownIds, others }: { shownIds: string; others: string }): React.JSX.Element {
  const dispatch = useAppDispatch(),
    ids = shownIds === '' ? [] : shownIds.split(',').map(Number);
  return (
    <LazyMenu
      trigger={
        <button type="button" className="witness-add">
          <Plus size={14} aria-hidden /> Add a witness
        </button>
      }
      items={others
        .split('\n')
        .map((o) => o.split('|'))
        .map(([id, name, light]) => ({
          value: id!,
          words: (
            <>
              {name} <small className="dim">{light}</small>
            </>
          ),
        }))}
      onSelect={(value) => dispatch(act.witnessesChosen([...ids, Number(value)]))}
    />
  );
});

/** The witnesses: other frames of the shoot, live beside the lead. */
export function Witnesses({
  darkroom,
  frames,
  look,
  leadId,
  ids,
  auto,
}: {
  darkroom: Darkroom;
  frames: Frame[];
  look: Look;
  leadId: number;
  ids: number[];
  auto: boolean;
}): React.JSX.Element {
  const dispatch = useAppDispatch();
  const shown = ids
    .map((id) => frames.find((f) => f.id === id))
    .filter((f): f is Frame => f !== undefined && f.id !== leadId && !f.missing)
    .slice(0, 6);
  const others = frames.filter((f) => f.id !== leadId && !shown.includes(f) && !f.missing);
  return (
    <Rove as="section" className="witnesses" aria-label="Witnesses" of=".witness-picture, .witness-add, .text-button">
      <h2 title="Other lights, live beside the lead frame">Witnesses</h2>
      {shown.map((f, i) => (
        <Witness
          key={f.id}
          darkroom={darkroom}
          frame={f}
          look={look}
          index={i}
          onLead={() => {
            dispatch(act.witnessesChosen(ids.map((id) => (id === f.id ? leadId : id))));
            dispatch(act.leadChosen(f.id));
          }}
          onRemove={() => dispatch(act.witnessesChosen(shown.filter((x) => x.id !== f.id).map((x) => x.id)))}
        />
      ))}
      {shown.length < 6 && others.length > 0 && (
        <AddWitness shownIds={shown.map((f) => f.id).join()} others={others.map((f) => `${f.id}|${f.name}|${f.light}`).join('\n')} />
      )}
      {!auto && (
        <button type="button" className="text-button" onClick={() => dispatch(act.witnessesChosen(null))}>
          Choose the most different
        </button>
      )}
    </Rove>
  );
}

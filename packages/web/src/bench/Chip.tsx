import type { Lane, LookStep, Mask } from '@dyepot/core';
import { Copy, Ellipsis, Eye, EyeOff, Pencil, Trash2 } from 'lucide-react';
import { lazy, memo, Suspense, useEffect, useRef, useState } from 'react';
import { LazyMenu, type MenuItem } from '../kit/LazyMenu.tsx';
import { StepDrawing } from '../steps/StepDrawing.tsx';
import { useAppDispatch, useAppSelector } from '../store.ts';
import { boundIn, placeWords } from '../where/parts.ts';
import { act, docOf, nameOf } from './benchSlice.ts';

const MaskDrawing = lazy(() => import('../where/MaskDrawing.tsx').then((m) => ({ default: m.MaskDrawing })));
const GiveSheet = lazy(() => import('./GiveSheet.tsx').then((m) => ({ default: m.GiveSheet })));
const worded = (Icon: typeof Copy, words: string): React.ReactNode => (
  <>
    <Icon size={13} aria-hidden /> {words}
  </>
);
const items: MenuItem[] = [
  { value: 'rename', words: worded(Pencil, 'Rename') },
  { value: 'copy', words: worded(Copy, 'Duplicate') },
  { value: 'hold', words: worded(Copy, 'Hold together with the one before') },
  { value: 'out', words: worded(Trash2, 'Take out') },
];
/** What can be done with a step, where it stands. */
function menuFor(lane: Lane, side: 'look' | 'frame', masks: readonly (Mask | null)[], before: LookStep | undefined): readonly MenuItem[] {
  if (lane === 'stock') return items.slice(0, 1);
  const all = items.filter((m) => before || m.value !== 'hold');
  if (side === 'look') return all;
  const bound = masks.some((mask) => boundIn(mask) || mask?.parts.some((p) => p.kind === 'named'));
  return [
    ...all,
    { value: 'give', words: worded(Copy, 'Give to frames…') },
    { value: 'take', words: worded(Copy, bound ? 'Its place belongs to this frame' : 'Take into the look'), disabled: bound },
  ];
}
/** How a chip is held by the pointer. */
export interface Grip {
  ref: (node: HTMLElement | null) => void;
  listeners: React.HTMLAttributes<HTMLElement> | undefined;
  style: React.CSSProperties;
  dragging: boolean;
}
export interface ChipProps {
  step: LookStep;
  lane: Lane;
  index: number;
  count: number;
  /** the step it stands after */
  before?: LookStep | undefined;
  selected: boolean;
  /** what lets it be dragged, once that has been fetched */
  grip?: Grip;
}

/** One step: its drawing, its name, its strength, and what can be done with it. */
export const Chip = memo(function Chip({ step, lane, index, count, before, selected, grip }: ChipProps): React.JSX.Element {
  const dispatch = useAppDispatch(),
    side = useAppSelector((s) => s.bench.side),
    skeinMask = useAppSelector((s) => docOf(s.bench).look.skeins.find((k) => k.id === step.skein)?.mask ?? null),
    [giving, setGiving] = useState(false),
    [naming, setNaming] = useState<string | null>(null);
  const move = (to: number): void => {
    if (lane !== 'stock' && to >= 0 && to < count) dispatch(act.stepMoved({ lane, from: index, to }));
  };
  const face = useRef<HTMLDivElement>(null),
    back = useRef(false);
  const rename = (): void => {
    if (naming !== null && naming.trim() !== nameOf(step)) dispatch(act.stepRenamed({ id: step.id, name: naming.trim() }));
    leaveNaming();
  };
  const leaveNaming = (): void => {
    back.current = true;
    setNaming(null);
  };
  // after naming, the focus is on the step again
  useEffect(() => {
    if (naming !== null || !back.current) return;
    back.current = false;
    if (document.activeElement === document.body) face.current?.focus();
  }, [naming]);
  const out = (): void => {
    if (lane === 'stock') return;
    dispatch(act.stepRemoved(step.id));
    // the focus goes to what is selected now
    setTimeout(() => document.querySelector<HTMLElement>('.chip.selected .chip-face')?.focus(), 0);
  };
  return (
    <div
      ref={grip?.ref}
      data-step={step.id}
      data-open={giving || undefined}
      className={`chip ${lane} ${selected ? 'selected' : ''} ${step.on ? '' : 'off'} ${grip?.dragging ? 'dragging' : ''}`}
      style={grip?.style}
    >
      <div
        {...(naming === null ? grip?.listeners : undefined)}
        ref={face}
        role="button"
        tabIndex={-1}
        className="chip-face"
        aria-describedby="chip-keys"
        title={`${nameOf(step)}: Space switches, F2 renames, Alt with arrows moves, Control D duplicates, Delete takes out`}
        aria-pressed={selected}
        onClick={() => dispatch(act.stepSelected(step.id))}
        onDoubleClick={() => setNaming(nameOf(step))}
        onKeyDown={(e) => {
          if (naming !== null) return;
          const acts: Record<string, (() => void) | undefined> = {
            Enter: () => dispatch(act.stepSelected(step.id)),
            ' ': () => dispatch(act.stepSwitched(step.id)),
            Delete: out,
            Backspace: out,
            F2: () => setNaming(nameOf(step)),
            ...(e.altKey ? { ArrowLeft: () => move(index - 1), ArrowRight: () => move(index + 1) } : {}),
            ...(e.ctrlKey || e.metaKey ? { d: () => dispatch(act.stepDuplicated(step.id)) } : {}),
          };
          const run = acts[e.key];
          if (!run) return;
          e.preventDefault();
          e.stopPropagation();
          run();
        }}
      >
        <StepDrawing step={step} />
        {naming === null ? (
          <b title={nameOf(step)}>{nameOf(step)}</b>
        ) : (
          <input
            className="chip-naming"
            aria-label="Name of the step"
            autoFocus
            value={naming}
            onChange={(e) => setNaming(e.target.value)}
            onFocus={(e) => e.target.select()}
            onBlur={rename}
            onClick={(e) => e.stopPropagation()}
            onPointerDown={(e) => e.stopPropagation()}
            onKeyDown={(e) => {
              e.stopPropagation();
              if (e.key === 'Enter') rename();
              if (e.key === 'Escape') leaveNaming();
            }}
          />
        )}
        {step.mask && (
          <Suspense>
            <MaskDrawing mask={step.mask} words={`acts ${placeWords(step.mask, [])}`} />
          </Suspense>
        )}
        <small>{step.on ? `${Math.round(step.strength * 100)} %` : 'off'}</small>
      </div>
      <button
        type="button"
        className="chip-eye"
        tabIndex={-1}
        title={step.on ? 'Switch off (Space)' : 'Switch on (Space)'}
        aria-label={step.on ? `Switch ${nameOf(step)} off` : `Switch ${nameOf(step)} on`}
        aria-pressed={!step.on}
        onClick={() => dispatch(act.stepSwitched(step.id))}
      >
        {step.on ? <Eye size={13} /> : <EyeOff size={13} />}
      </button>
      <LazyMenu
        minW="150px"
        trigger={
          <button type="button" className="chip-more" tabIndex={-1} title="More" aria-label={`More for ${nameOf(step)}`}>
            <Ellipsis size={14} aria-hidden />
          </button>
        }
        items={menuFor(lane, side, [step.mask, skeinMask], before)}
        onSelect={(value) => {
          if (value === 'rename') setTimeout(() => setNaming(nameOf(step)), 30);
          if (value === 'copy') dispatch(act.stepDuplicated(step.id));
          if (value === 'hold' && before) dispatch(act.skeinMade([before.id, step.id], 'Together'));
          if (value === 'out') out();
          if (value === 'take') dispatch(act.stepGivenToLook(step.id));
          if (value === 'give') setGiving(true);
        }}
      />
      {giving && (
        <Suspense>
          <GiveSheet step={step} onClose={() => setGiving(false)} />
        </Suspense>
      )}
    </div>
  );
});

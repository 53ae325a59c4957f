import { emptyLook, laneOf, newStep, stepKind, stepsOf, type Lane, type Look, type LookStep, type ReadoutKind } from '@dyepot/core';
import { createSlice, current, nanoid, type Draft, type PayloadAction } from '@reduxjs/toolkit';
import type { ViewState } from '../view/layout.ts';
import { applyPatches, enablePatches, isDraft, produceWithPatches, type Patch } from 'immer';

enablePatches();

/** One undoable change of the look: patches there and back, and the gesture it belongs to. */
interface Edit {
  words: string;
  gesture: string;
  forward: Patch[];
  back: Patch[];
}

export interface BenchState {
  shootId: number | null;
  /** the look on the shelf this one is being edited from, and its revision; null for a new one */
  lookId: number | null;
  revision: number | null;
  /** true when the look differs from that revision */
  edited: boolean;
  look: Look;
  past: Edit[];
  future: Edit[];
  selected: string;
  leadId: number | null;
  /** null: Dyepot chooses */
  witnessIds: number[] | null;
  view: ViewState;
  readout: ReadoutKind;
  /** what "before" shows: the frame's groundwork alone, or the frame as decoded */
  before: 'ground' | 'decoded';
}

const key = 'dyepot-bench-1';
export const freshView: ViewState = {
  zoom: 'fit',
  centre: { x: 0.5, y: 0.5 },
  compare: 'off',
  wipe: 0.5,
  across: false,
  limit: null,
  limiting: false,
  surround: 'mid',
};
const fresh: BenchState = {
  shootId: null,
  lookId: null,
  revision: null,
  edited: false,
  look: emptyLook('New look'),
  past: [],
  future: [],
  selected: 'stock',
  leadId: null,
  witnessIds: null,
  view: freshView,
  readout: 'histogram',
  before: 'ground',
};

/** The bench as it was left, or an empty one. */
export function loadBench(): BenchState {
  try {
    const kept = JSON.parse(localStorage.getItem(key) ?? 'null') as Partial<BenchState> | null;
    if (!kept?.look || !stepsOf(kept.look).every((s) => stepKind(s.kind))) return fresh;
    return { ...fresh, ...kept, view: { ...freshView, ...kept.view, compare: 'off', zoom: 'fit', limiting: false } };
  } catch {
    return fresh;
  }
}
export function saveBench(state: BenchState): void {
  try {
    localStorage.setItem(key, JSON.stringify({ ...state, past: state.past.slice(-100) }));
  } catch {
    /* storage may be full or refused; the look is then kept for this visit only */
  }
}

/** The look as plain data, inside or outside a reducer. */
const settled = (state: { look: unknown }): Look => (isDraft(state.look) ? current(state.look) : state.look) as Look;

function change(state: BenchState, words: string, gesture: string, recipe: (look: Look) => void): void {
  const [look, forward, back] = produceWithPatches(settled(state), recipe);
  if (forward.length === 0) return;
  const last = state.past[state.past.length - 1];
  if (last && gesture && last.gesture === gesture)
    state.past[state.past.length - 1] = { words, gesture, forward: [...last.forward, ...forward], back: [...back, ...last.back] };
  else state.past.push({ words, gesture, forward, back });
  if (state.past.length > 400) state.past.shift();
  state.future = [];
  state.look = look;
  state.edited = true;
}
const stepIn = (look: Look, id: string): LookStep | undefined => stepsOf(look).find((s) => s.id === id);
export const nameOf = (step: LookStep): string => step.name || stepKind(step.kind)?.name || step.kind;

export const bench = createSlice({
  name: 'bench',
  initialState: fresh,
  reducers: {
    shootOpened: (s, { payload }: PayloadAction<{ shootId: number; leadId: number | null }>) => {
      if (s.shootId !== payload.shootId) {
        s.shootId = payload.shootId;
        s.leadId = payload.leadId;
        s.witnessIds = null;
        s.view.zoom = 'fit';
      } else if (payload.leadId !== null) s.leadId = payload.leadId;
    },
    lookOpened: (s, { payload }: PayloadAction<{ lookId: number | null; revision: number | null; look: Look }>) => {
      Object.assign(s, {
        ...payload,
        past: [],
        future: [],
        edited: payload.lookId === null && stepsOf(payload.look).length > 1,
        selected: payload.look.print[0]?.id ?? payload.look.scene[0]?.id ?? payload.look.stock.id,
      });
    },
    revisionSaved: (s, { payload }: PayloadAction<{ lookId: number; revision: number; name: string }>) => {
      s.lookId = payload.lookId;
      s.revision = payload.revision;
      s.look.name = payload.name;
      s.edited = false;
    },
    leadChosen: (s, { payload }: PayloadAction<number>) => {
      s.leadId = payload;
      s.view.zoom = 'fit';
      s.view.limit = null;
    },
    beforeChosen: (s, { payload }: PayloadAction<BenchState['before']>) => {
      s.before = payload;
    },
    witnessesChosen: (s, { payload }: PayloadAction<number[] | null>) => {
      s.witnessIds = payload;
    },
    stepSelected: (s, { payload }: PayloadAction<string>) => {
      s.selected = payload;
    },
    parameterSet: (
      s,
      { payload: p }: PayloadAction<{ id: string; name: string; value: LookStep['params'][string]; words: string; gesture: string }>,
    ) =>
      change(s, p.words, p.gesture, (l) => {
        const step = stepIn(l, p.id);
        if (step) step.params[p.name] = p.value;
      }),
    parametersSet: (s, { payload: p }: PayloadAction<{ id: string; values: LookStep['params']; words: string; gesture: string }>) =>
      change(s, p.words, p.gesture, (l) => {
        const step = stepIn(l, p.id);
        if (step) Object.assign(step.params, p.values);
      }),
    strengthSet: (s, { payload: p }: PayloadAction<{ id: string; strength: number; gesture: string }>) =>
      change(s, 'Strength', p.gesture, (l) => {
        const step = stepIn(l, p.id);
        if (step) step.strength = p.strength;
      }),
    lookStrengthSet: (s, { payload: p }: PayloadAction<{ strength: number; gesture: string }>) =>
      change(s, 'Look strength', p.gesture, (l) => {
        l.strength = p.strength;
      }),
    lookDescribed: (s, { payload: p }: PayloadAction<Partial<Pick<Look, 'name' | 'family' | 'notes'>>>) =>
      change(s, 'Name and notes', '', (l) => {
        Object.assign(l, p);
      }),
    stepSwitched: (s, { payload: id }: PayloadAction<string>) =>
      change(s, 'Step on or off', '', (l) => {
        const step = stepIn(l, id);
        if (step) step.on = !step.on;
      }),
    stepRenamed: (s, { payload: p }: PayloadAction<{ id: string; name: string }>) =>
      change(s, 'Rename', '', (l) => {
        const step = stepIn(l, p.id);
        if (step) step.name = p.name.slice(0, 80);
      }),
    stepAdded: {
      prepare: (kind: string) => ({ payload: { kind, id: nanoid(8) } }),
      reducer: (s, { payload: p }: PayloadAction<{ kind: string; id: string }>) => {
        const declared = stepKind(p.kind);
        if (!declared || declared.lane === 'stock') return;
        change(s, `Add ${declared.name}`, '', (l) => {
          l[declared.lane as 'scene' | 'print'].push(newStep(p.kind, p.id));
        });
        s.selected = p.id;
      },
    },
    stepDuplicated: {
      prepare: (id: string) => ({ payload: { id, copy: nanoid(8) } }),
      reducer: (s, { payload: p }: PayloadAction<{ id: string; copy: string }>) => {
        const lane = laneOf(s.look as Look, p.id);
        if (lane !== 'scene' && lane !== 'print') return;
        change(s, 'Duplicate', '', (l) => {
          const at = l[lane].findIndex((x) => x.id === p.id),
            step = l[lane][at]!;
          l[lane].splice(at + 1, 0, { ...structuredClone(JSON.parse(JSON.stringify(step)) as LookStep), id: p.copy });
        });
        s.selected = p.copy;
      },
    },
    stepRemoved: (s, { payload: id }: PayloadAction<string>) => {
      const lane = laneOf(s.look as Look, id);
      if (lane !== 'scene' && lane !== 'print') return;
      const at = s.look[lane].findIndex((x) => x.id === id);
      change(s, 'Remove', '', (l) => {
        l[lane].splice(at, 1);
      });
      s.selected = (s.look[lane][at] ?? s.look[lane][at - 1])?.id ?? s.look.stock.id;
    },
    stepMoved: (s, { payload: p }: PayloadAction<{ lane: Exclude<Lane, 'stock'>; from: number; to: number }>) =>
      change(s, 'Reorder', '', (l) => {
        const [step] = l[p.lane].splice(p.from, 1);
        if (step) l[p.lane].splice(p.to, 0, step);
      }),
    undone: (s) => {
      const edit = s.past.pop();
      if (!edit) return;
      s.look = applyPatches(settled(s), (current(edit) as Edit).back) as Draft<Look>;
      s.future.push(edit);
      s.edited = true;
      if (!laneOf(s.look as Look, s.selected)) s.selected = s.look.stock.id;
    },
    redone: (s) => {
      const edit = s.future.pop();
      if (!edit) return;
      s.look = applyPatches(settled(s), (current(edit) as Edit).forward) as Draft<Look>;
      s.past.push(edit);
      s.edited = true;
      if (!laneOf(s.look as Look, s.selected)) s.selected = s.look.stock.id;
    },
    viewSet: (s, { payload }: PayloadAction<Partial<ViewState>>) => {
      Object.assign(s.view, payload);
    },
    readoutChosen: (s, { payload }: PayloadAction<ReadoutKind>) => {
      s.readout = payload;
    },
  },
});
export const act = bench.actions;

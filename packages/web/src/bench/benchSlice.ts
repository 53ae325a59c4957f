import {
  emptyLook,
  laneOf,
  newStep,
  sheetOf,
  stepKind,
  stepsOf,
  type Lane,
  type Look,
  type LookStep,
  type ReadoutKind,
} from '@dyepot/core';
import { createSlice, current, nanoid, type Draft, type PayloadAction } from '@reduxjs/toolkit';
import type { ViewState } from '../view/layout.ts';
import { applyPatches, enablePatches, isDraft, produceWithPatches, type Patch } from 'immer';

enablePatches();

/** One undoable change of the look: patches there and back, and the gesture it belongs to. */
export interface Edit {
  id: string;
  words: string;
  gesture: string;
  forward: Patch[];
  back: Patch[];
}

/** Where the look on the bench is kept: its draft on the server, and how often that was saved. */
export interface KeptDraft {
  id: number;
  version: number;
}
export interface BenchState {
  shootId: number | null;
  /** the look on the shelf this one is being edited from, and its revision; null for a new one */
  lookId: number | null;
  revision: number | null;
  draft: KeptDraft | null;
  /** names this opening of a look, so that what answers late is known */
  opening: string;
  look: Look;
  past: Edit[];
  future: Edit[];
  /** the last edit before which the oldest were forgotten; empty when none were */
  floor: string;
  /** the last edit that is in the revision; what was done since is not */
  base: string;
  selected: string;
  leadId: number | null;
  /** null: Dyepot chooses */
  witnessIds: number[] | null;
  view: ViewState;
  readout: ReadoutKind;
  /** what "before" shows: the frame's groundwork alone, or the frame as decoded */
  before: 'ground' | 'decoded';
}
/** Whether the look differs from its revision: undone to where it was saved, it does not. */
export const isEdited = (s: Pick<BenchState, 'past' | 'floor' | 'base'>): boolean => (s.past[s.past.length - 1]?.id ?? s.floor) !== s.base;

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
export const freshBench: BenchState = {
  shootId: null,
  lookId: null,
  revision: null,
  draft: null,
  opening: '',
  look: emptyLook('New look'),
  past: [],
  future: [],
  floor: '',
  base: '',
  selected: 'stock',
  leadId: null,
  witnessIds: null,
  view: freshView,
  readout: 'histogram',
  before: 'ground',
};

/** The look as plain data, inside or outside a reducer. */
const settled = (state: { look: unknown }): Look => (isDraft(state.look) ? current(state.look) : state.look) as Look;

function change(state: BenchState, words: string, gesture: string, recipe: (look: Look) => void): void {
  const [look, forward, back] = produceWithPatches(settled(state), recipe);
  if (forward.length === 0) return;
  const last = state.past[state.past.length - 1];
  // a gesture that was saved half-way goes on as another edit
  if (last && gesture && last.gesture === gesture && last.id !== state.base)
    state.past[state.past.length - 1] = {
      id: last.id,
      words,
      gesture,
      forward: [...last.forward, ...forward],
      back: [...back, ...last.back],
    };
  else state.past.push({ id: nanoid(8), words, gesture, forward, back });
  while (state.past.length > mostEdits) state.floor = state.past.shift()!.id;
  state.future = [];
  state.look = look;
}
/** Edits that can be undone. */
const mostEdits = 400;
const stepIn = (look: Look, id: string): LookStep | undefined => stepsOf(look).find((s) => s.id === id);
/** What a step is called: its own name, a film's, or its kind's. */
export const nameOf = (step: LookStep): string =>
  step.name || (step.kind === 'film' && sheetOf(step.params)?.name) || stepKind(step.kind)?.name || step.kind;

/** A look laid on the bench: from the shelf, as a draft with what can be undone of it, or new. */
export interface Opened {
  lookId: number | null;
  revision: number | null;
  look: Look;
  draft?: KeptDraft | null;
  past?: Edit[];
  future?: Edit[];
  /** its oldest edits were not kept */
  trimmed?: boolean;
}

export const bench = createSlice({
  name: 'bench',
  initialState: freshBench,
  reducers: {
    shootOpened: (s, { payload }: PayloadAction<{ shootId: number; leadId: number | null }>) => {
      if (s.shootId !== payload.shootId) {
        s.shootId = payload.shootId;
        s.leadId = payload.leadId;
        s.witnessIds = null;
        s.view.zoom = 'fit';
      } else if (payload.leadId !== null) s.leadId = payload.leadId;
    },
    lookOpened: (s, { payload: p }: PayloadAction<Opened>) => {
      const { lookId, revision, look, draft = null } = p;
      Object.assign(s, {
        lookId,
        revision,
        look,
        draft,
        opening: nanoid(8),
        past: p.past ?? [],
        future: p.future ?? [],
        // where its oldest edits were not kept, undoing the rest does not lead back to the revision
        floor: p.trimmed ? 'forgotten' : '',
        // a draft differs from its revision until it is undone to its beginning
        base: '',
        selected: look.print[0]?.id ?? look.scene[0]?.id ?? look.stock.id,
      });
      // a look that came to the bench without any edit of its own and is on no shelf is work all the same
      if (lookId === null && s.past.length === 0 && stepsOf(look).length > 1) s.base = 'nowhere';
    },
    revisionSaved: (s, { payload: p }: PayloadAction<{ lookId: number; revision: number; described: Partial<Look> }>) => {
      s.lookId = p.lookId;
      s.revision = p.revision;
      s.draft = null;
      // a name is given, not edited: no undo takes it away again
      Object.assign(s.look, p.described);
      s.base = s.past[s.past.length - 1]?.id ?? s.floor;
    },
    draftKept: (s, { payload: p }: PayloadAction<KeptDraft & { opening: string }>) => {
      if (s.opening === p.opening) s.draft = { id: p.id, version: p.version };
    },
    draftEnded: (s) => {
      s.draft = null;
    },
    /** the draft goes on as one of its own, beside what another window made of it */
    draftParted: (s) => {
      s.draft = null;
      s.lookId = null;
      s.revision = null;
      s.base = 'nowhere';
      s.look.name = `${s.look.name.slice(0, 60)}, other window`;
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
    joiningSet: (
      s,
      { payload: p }: PayloadAction<{ id: string; change: Partial<Pick<LookStep, 'mask' | 'blend'>>; words: string; gesture: string }>,
    ) =>
      change(s, p.words, p.gesture, (l) => {
        const step = stepIn(l, p.id);
        if (step) Object.assign(step, p.change);
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
    /** another kind of stock takes the place of the one there is */
    stockTaken: (s, { payload: kind }: PayloadAction<string>) => {
      const declared = stepKind(kind);
      if (declared?.lane !== 'stock' || kind === s.look.stock.kind) return;
      change(s, declared.name, '', (l) => {
        l.stock = newStep(kind, l.stock.id);
      });
      s.selected = s.look.stock.id;
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
      change(s, 'Take out', '', (l) => {
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
      if (!laneOf(s.look as Look, s.selected)) s.selected = s.look.stock.id;
    },
    redone: (s) => {
      const edit = s.future.pop();
      if (!edit) return;
      s.look = applyPatches(settled(s), (current(edit) as Edit).forward) as Draft<Look>;
      s.past.push(edit);
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

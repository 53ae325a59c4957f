import { laneOf, newStep, stepKind, stepsOf, type Lane, type Look, type LookStep, type ReadoutKind } from '@dyepot/core';
import { createSlice, current, nanoid, type Draft, type PayloadAction } from '@reduxjs/toolkit';
import { applyPatches } from 'immer';
import type { ViewState } from '../view/layout.ts';
import { change, freshBench, settled, stepIn, type BenchState, type Edit, type KeptDraft, type Opened } from './benchState.ts';

export * from './benchState.ts';

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
    /** several at once, as one edit */
    stepsAdded: {
      prepare: (words: string, steps: readonly { kind: string; params: LookStep['params']; name: string }[]) => ({
        payload: { words, steps: steps.map((x) => ({ ...x, id: nanoid(8) })) },
      }),
      reducer: (
        s,
        { payload: p }: PayloadAction<{ words: string; steps: { kind: string; params: LookStep['params']; name: string; id: string }[] }>,
      ) => {
        change(s, p.words, '', (l) => {
          for (const { kind, params, name, id } of p.steps) {
            const lane = stepKind(kind)!.lane as 'scene' | 'print',
              step = newStep(kind, id);
            l[lane].push({ ...step, name, params: { ...step.params, ...params } });
          }
        });
        s.selected = p.steps[p.steps.length - 1]!.id;
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

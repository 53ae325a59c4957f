import {
  laneOf,
  newStep,
  stepKind,
  stepsOf,
  type Lane,
  type Look,
  type LookStep,
  type Mask,
  type NamedMask,
  type ReadoutKind,
  type Skein,
} from '@dyepot/core';
import { createSlice, current, nanoid, type Draft, type PayloadAction } from '@reduxjs/toolkit';
import { applyPatches } from 'immer';
import type { ViewState } from '../view/layout.ts';
import {
  change,
  docOf,
  freshBench,
  settled,
  stepIn,
  type BenchState,
  type BrushTool,
  type Edit,
  type KeptDraft,
  type Opened,
} from './benchState.ts';
import { dropEmptySkeins, firstOf, holdTogether, namePlace, putPlace, stands } from './ownChain.ts';
import { giveToLook, openOwn } from './ownReducers.ts';

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
        side: 'look',
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
    lookStrengthSet: (s, { payload: p }: PayloadAction<{ strength: number; gesture: string }>) => {
      // it is the look's, whatever the chain shows
      s.side = 'look';
      change(s, 'Look strength', p.gesture, (l) => {
        l.strength = p.strength;
      });
    },
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
      prepare: (words: string, steps: readonly { kind: string; params: LookStep['params']; name: string; mask?: Mask | null }[]) => ({
        payload: { words, steps: steps.map((x) => ({ ...x, id: nanoid(8) })) },
      }),
      reducer: (
        s,
        {
          payload: p,
        }: PayloadAction<{
          words: string;
          steps: { kind: string; params: LookStep['params']; name: string; mask?: Mask | null; id: string }[];
        }>,
      ) => {
        change(s, p.words, '', (l) => {
          for (const { kind, params, name, mask = null, id } of p.steps) {
            const lane = stepKind(kind)!.lane as 'scene' | 'print',
              step = newStep(kind, id);
            l[lane].push({ ...step, name, mask, params: { ...step.params, ...params } });
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
      s.selected = docOf(s).look.stock.id;
    },
    stepDuplicated: {
      prepare: (id: string) => ({ payload: { id, copy: nanoid(8) } }),
      reducer: (s, { payload: p }: PayloadAction<{ id: string; copy: string }>) => {
        const lane = laneOf(docOf(s).look as Look, p.id);
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
      const lane = laneOf(docOf(s).look as Look, id);
      if (lane !== 'scene' && lane !== 'print') return;
      const at = docOf(s).look[lane].findIndex((x) => x.id === id);
      change(s, 'Take out', '', (l) => {
        l[lane].splice(at, 1);
        dropEmptySkeins(l);
      });
      s.selected = (docOf(s).look[lane][at] ?? docOf(s).look[lane][at - 1])?.id ?? docOf(s).look.stock.id;
    },
    stepMoved: (s, { payload: p }: PayloadAction<{ lane: Exclude<Lane, 'stock'>; from: number; to: number }>) =>
      change(s, 'Reorder', '', (l) => {
        const [step] = l[p.lane].splice(p.from, 1);
        if (!step) return;
        l[p.lane].splice(p.to, 0, step);
        // a step that lands between two of a skein is in it; one that leaves its own is out of it
        const [before, after] = [l[p.lane][p.to - 1]?.skein ?? '', l[p.lane][p.to + 1]?.skein ?? ''];
        if (before !== '' && before === after) step.skein = before;
        else if (step.skein !== before && step.skein !== after) step.skein = '';
        dropEmptySkeins(l);
      }),
    undone: (s) => {
      const doc = docOf(s),
        edit = doc.past.pop();
      if (!edit) return;
      doc.look = applyPatches(settled(doc), (current(edit) as Edit).back) as Draft<Look>;
      doc.future.push(edit);
      if (!stands(doc.look, s.selected)) s.selected = firstOf(doc.look);
    },
    redone: (s) => {
      const doc = docOf(s),
        edit = doc.future.pop();
      if (!edit) return;
      doc.look = applyPatches(settled(doc), (current(edit) as Edit).forward) as Draft<Look>;
      doc.past.push(edit);
      if (!stands(doc.look, s.selected)) s.selected = firstOf(doc.look);
    },
    sideChosen: (s, { payload }: PayloadAction<BenchState['side']>) => {
      s.side = payload;
      s.selected = firstOf(docOf(s).look);
      s.part = 0;
    },
    partChosen: (s, { payload }: PayloadAction<number>) => {
      s.part = payload;
    },
    placeShown: (s, { payload }: PayloadAction<Partial<Pick<BenchState, 'showPlace' | 'placeHeld' | 'placeTint' | 'wet'>>>) => {
      Object.assign(s, payload);
    },
    brushSet: (s, { payload }: PayloadAction<Partial<BrushTool>>) => {
      Object.assign(s.brush, payload);
    },
    /** what the server has of a frame's own steps, where nothing newer is in hand */
    ownOpened: (s, { payload }: PayloadAction<Parameters<typeof openOwn>[1]>) => openOwn(s as BenchState, payload),
    ownKept: (s, { payload: p }: PayloadAction<{ frameId: number; version: number; kept: Look }>) => {
      const doc = s.owns[p.frameId];
      if (!doc) return;
      doc.version = p.version;
      doc.kept = p.kept as Draft<Look>;
    },
    /** a step of the lead's own goes into the look, where every frame gets it */
    stepGivenToLook: (s, { payload }: PayloadAction<string>) => giveToLook(s as BenchState, payload),
    skeinMade: {
      prepare: (ids: string[], name: string) => ({ payload: { ids, name, skein: nanoid(8) } }),
      reducer: (s, { payload: p }: PayloadAction<{ ids: string[]; name: string; skein: string }>) =>
        change(s, 'Hold together', '', (l) => holdTogether(l, p.ids, p.skein, p.name)),
    },
    skeinSet: (s, { payload: p }: PayloadAction<{ id: string; change: Partial<Omit<Skein, 'id'>>; words: string; gesture: string }>) =>
      change(s, p.words, p.gesture, (l) => {
        const skein = l.skeins.find((k) => k.id === p.id);
        if (skein) Object.assign(skein, p.change);
      }),
    skeinUndone: (s, { payload: id }: PayloadAction<string>) =>
      change(s, 'Let go of a skein', '', (l) => {
        for (const step of [...l.scene, ...l.print]) if (step.skein === id) step.skein = '';
        dropEmptySkeins(l);
      }),
    /** a copied place, with the named ones it uses */
    placePut: (s, { payload: p }: PayloadAction<{ id: string; mask: Mask; masks: readonly NamedMask[] }>) =>
      change(s, 'Put a copied place here', '', (l) => putPlace(l, p.id, p.mask, p.masks)),
    placeNamed: {
      prepare: (id: string, name: string) => ({ payload: { id, name, place: nanoid(8) } }),
      reducer: (s, { payload: p }: PayloadAction<{ id: string; name: string; place: string }>) =>
        change(s, 'Name a place', '', (l) => namePlace(l, p.id, p.place, p.name)),
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
